import { nanoid } from 'nanoid'
import type { RecordingDetails, RecordingKind } from '@/core/messages/recording'
import type { Seconds } from '@/core/units'
import type { Microphone } from './microphone'
import { keepPieces, type PieceKeeper } from './pieces'

/** No more than that can be lost. */
const PIECE: Seconds = 0.5

/** A recording of the microphone in progress. */
export interface VoiceRecording {
  id: string
  /** Length so far. */
  time(): Seconds
  /** From now on another step is spoken to. */
  mark(step: string): void
  details(): RecordingDetails
  progress: PieceKeeper['progress']
  trouble: PieceKeeper['trouble']
  /** Ends it and waits until all of it is on the server; gives the id of its import. */
  stop(): Promise<string>
}

/** Begins to record; the first sample is the first that the microphone gives after this has returned. */
export async function recordVoice(
  microphone: Microphone,
  lesson: string,
  kind: RecordingKind,
  first: RecordingDetails,
): Promise<VoiceRecording> {
  const id = nanoid(14)
  let details = first
  const keeper = await keepPieces({ id, lesson, kind, details })
  const { rate } = microphone
  let piece: Float32Array[] = []
  let waiting = 0
  let total = 0
  let arrived = performance.now()
  let keeping: Promise<void> = Promise.resolve()
  const flush = () => {
    if (waiting === 0) return
    const bytes = joined(piece, waiting)
    piece = []
    waiting = 0
    keeping = keeping.then(() => keeper.keep(bytes))
  }
  const stopListening = microphone.listen((samples) => {
    piece.push(samples.slice())
    waiting += samples.length
    total += samples.length
    arrived = performance.now()
    if (waiting >= PIECE * rate) flush()
  })
  return {
    id,
    time: () => total / rate,
    mark(step) {
      // Samples that are still on their way to a busy page were said before this.
      const at = total / rate + (performance.now() - arrived) / 1000
      details = { ...details, marks: [...details.marks, { step, at }] }
      void keeper.describe(details)
    },
    details: () => details,
    progress: keeper.progress,
    trouble: keeper.trouble,
    async stop() {
      stopListening()
      flush()
      await keeping
      return keeper.finish()
    },
  }
}

function joined(parts: readonly Float32Array[], length: number): ArrayBuffer {
  const out = new Float32Array(length)
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out.buffer
}

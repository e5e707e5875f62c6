import { nanoid } from 'nanoid'
import type { RecordingDetails, RecordingKind } from '@/core/messages/arrival'
import type { Seconds } from '@/core/units'
import { decimal } from '@/ui/format'
import { say } from '@/messages/say'
import type { Microphone } from './microphone'
import { keepPieces, type PieceKeeper } from './pieces'
import { takeSound } from './takeSound'

/** No more than that can be lost. */
const PIECE: Seconds = 0.5

/** A recording of the microphone in progress. */
export interface VoiceRecording {
  /** Of the recording on the server. */
  id(): string
  /** Length so far. */
  time(): Seconds
  /** Since this page time another step is spoken to. */
  mark(step: string, since: Seconds): void
  details(): RecordingDetails
  progress: PieceKeeper['progress']
  trouble: PieceKeeper['trouble']
  /** What of it never came from the microphone, in a sentence. */
  lost(): string | null
  /** Ends it and waits until all of it is on the server; gives the id of its import. */
  stop(): Promise<string>
}

/** Begins to record; the first sample is the first that is heard after this has returned. */
export async function recordVoice(
  microphone: Microphone,
  lesson: string,
  kind: RecordingKind,
  first: RecordingDetails,
): Promise<VoiceRecording> {
  const id = nanoid(14)
  let details = first
  const keeper = await keepPieces({ id, lesson, kind, details })
  let piece: Float32Array[] = []
  let waiting = 0
  let keeping: Promise<void> = Promise.resolve()
  const flush = () => {
    if (waiting === 0) return
    const bytes = joined(piece, waiting)
    piece = []
    waiting = 0
    keeping = keeping.then(() => keeper.keep(bytes))
  }
  const taken = takeSound(microphone, (samples) => {
    piece.push(samples.slice())
    waiting += samples.length
    if (waiting >= PIECE * microphone.rate) flush()
  })
  return {
    id: keeper.id,
    time: taken.time,
    mark(step, since) {
      details = { ...details, marks: [...details.marks, { step, at: taken.placeAt(since) }] }
      void keeper.describe(details)
    },
    details: () => details,
    progress: keeper.progress,
    trouble: keeper.trouble,
    lost: () => sayMissing(taken.missing()),
    async stop() {
      await taken.end()
      flush()
      await keeping
      return keeper.finish()
    },
  }
}

const sayMissing = (missing: Seconds) =>
  missing === 0 ? null : say('booth.theComputerWasToo', { missing: decimal(missing, 2) })

function joined(parts: readonly Float32Array[], length: number): ArrayBuffer {
  const out = new Float32Array(length)
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out.buffer
}

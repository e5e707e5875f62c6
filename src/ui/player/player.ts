import { transfer, wrap, type Remote } from 'comlink'
import { layoutLesson } from '@/core/lesson/layout'
import type { Finding } from '@/core/check/finding'
import type { BalancePicture } from '@/core/mix/balancePicture'
import type { StrokesWorth } from '@/core/mix/strokesWorth'
import type { Found } from '@/core/narration/words/alignments'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import type { HeardLesson, Hearing, MixPicture, MixWorkerApi, PlanWorkerApi, PlayReport } from '@/workers/protocol'
import { wordsToHand } from '@/messages/say'
import { openWorker } from './openWorker'

/** Plays a lesson in this page: a worker plans, another renders, an AudioWorklet sounds; this tells them what to do. */
export interface Player {
  setLesson(heard: HeardLesson): Promise<MixPicture>
  /** What was planned last, for the balance view. */
  balance(): Promise<BalancePicture>
  strokesWorth(): Promise<StrokesWorth | null>
  /** What is found in words and captions; `found`: in takes, since the last call. */
  findInWords(found: [key: string, found: Found | null][]): Promise<Finding[]>
  /** Plays from a place in the lesson, to `until` or its end. */
  play(from: Seconds, until?: Seconds): Promise<void>
  pause(): void
  seek(to: Seconds): void
  /** The place that is heard at this moment. */
  position(): Seconds
  isPlaying(): boolean
  /** Goes on from the place that is reached; from the beginning at the end. */
  playOn(): Promise<void>
  listenTo(hearing: Hearing): void
  /** What of the mix is heard now. */
  hearing(): Hearing
  /** Called when playing starts, stops, or the place jumps. */
  subscribe(listener: () => void): () => void
  close(): void
}

/** So near the end there is nothing left to hear. */
const END: Seconds = 0.05

export function createPlayer(): Player {
  const mixWorker = openWorker(
    () => new Worker(new URL('../../workers/mix.worker.ts', import.meta.url), { type: 'module' }),
  )
  const planWorker = openWorker(
    () => new Worker(new URL('../../workers/plan.worker.ts', import.meta.url), { type: 'module' }),
  )
  const mix: Remote<MixWorkerApi> = wrap<MixWorkerApi>(mixWorker)
  const plan: Remote<PlanWorkerApi> = wrap<PlanWorkerApi>(planWorker)
  const line = new MessageChannel()
  void mix.planFrom(transfer(line.port1, [line.port1]))
  void plan.connect(transfer(line.port2, [line.port2]), wordsToHand())
  /** Number of the plan that was asked for last. */
  let plans = 0
  const listeners = new Set<() => void>()
  const tell = () => listeners.forEach((listener) => listener())
  let sound: Promise<AudioContext> | undefined
  let context: AudioContext | undefined
  let report: PlayReport | null = null
  let resting: Seconds = 0
  let playing = false
  let hearing: Hearing = 'all'
  let length: Seconds = 0

  async function openSound(): Promise<AudioContext> {
    context = new AudioContext({ sampleRate: HOUSE_RATE, latencyHint: 'interactive' })
    await context.audioWorklet.addModule('/worklets/player.worklet.js')
    const node = new AudioWorkletNode(context, 'yarn-step-player', { numberOfInputs: 0, outputChannelCount: [2] })
    const { port1, port2 } = new MessageChannel()
    node.port.postMessage(port1, [port1])
    node.port.onmessage = ({ data }: MessageEvent<PlayReport>) => take(data)
    node.connect(context.destination)
    await mix.connect(transfer(port2, [port2]))
    // Tests listen here to what is really played.
    Object.assign(globalThis, { yarnStepOutput: { context, node } })
    return context
  }

  function take(next: PlayReport): void {
    if (!playing) return
    report = next
    if (!next.ended) return
    playing = false
    resting = next.position / HOUSE_RATE
    report = null
    tell()
  }

  function position(): Seconds {
    if (!playing || !report || !context) return resting
    const heardAt = context.currentTime - (context.outputLatency || context.baseLatency || 0)
    return Math.max(0, report.position / HOUSE_RATE + Math.min(0.25, heardAt - report.time))
  }

  /** A first failure is not the last word. */
  function soundOpened(): Promise<AudioContext> {
    sound ??= openSound()
    sound.catch(() => (sound = undefined))
    return sound
  }

  async function play(from: Seconds, until?: Seconds): Promise<void> {
    playing = true
    resting = from
    report = null
    tell()
    try {
      await (await soundOpened()).resume()
      if (playing) await mix.play(from, until ?? null, plans)
    } catch (error) {
      playing = false
      tell()
      throw error
    }
  }

  function pause(): void {
    if (!playing) return
    resting = position()
    playing = false
    report = null
    void mix.stop()
    tell()
  }

  return {
    balance: () => plan.balance(),
    strokesWorth: () => plan.strokesWorth(),
    findInWords: (found) => plan.findInWords(found),
    setLesson(heard) {
      // Opened ahead, silent until it is asked to play: then playing begins at once.
      soundOpened().catch(() => {})
      length = layoutLesson(heard.lesson).length
      return plan.setLesson(heard, ++plans)
    },
    play,
    pause,
    seek(to) {
      if (playing) void play(to)
      else {
        resting = to
        tell()
      }
    },
    position,
    isPlaying: () => playing,
    playOn: () => play(position() >= length - END ? 0 : position()),
    listenTo(next) {
      hearing = next
      void mix.listenTo(next)
      tell()
    },
    hearing: () => hearing,
    subscribe(listener) {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    close() {
      planWorker.terminate()
      mixWorker.terminate()
      void context?.close()
    },
  }
}

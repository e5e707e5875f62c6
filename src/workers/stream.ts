import type { SampleIndex } from '@/core/units'
import { GRID } from '@/core/mix/limiter'
import type { MixPlan } from '@/core/mix/mixPlan'
import { renderMix, type MixBlock, type SampleSource, type Stereo } from '@/core/mix/renderer'
import type { Hearing, PlayReport, ToWorklet } from './protocol'

/** First block short, so that playing begins at once; then a tenth of a second each. */
const FIRST_BLOCK = 75 * GRID
const BLOCK = 150 * GRID
/**
 * How far rendering runs ahead of playing: a second, since a busy machine may leave this thread without a turn for a third of
 * one. A change doesn't wait for it: the new stream takes over as soon as it has its reserve (see player.worklet.ts).
 */
const LEAD = 48_000
const PAUSE = 8 // ms
const ASK_AGAIN = 100 // ms

/** Where a place of the mix before a change lies after it. */
type Carry = (position: SampleIndex) => SampleIndex

/** What is to be rendered; read whenever a stream is begun. */
export interface StreamInput {
  plan: MixPlan
  source: SampleSource
  hearing: Hearing
}

/** A stream that was begun: it starts at `at`, in place of `insteadOf` in the stream that played then. */
interface Begun {
  stream: number
  at: SampleIndex
  insteadOf: SampleIndex | null
  until: SampleIndex | null
}

/** Renders ahead of the player and starts over where the mix changes. */
export function createStreamer(input: () => StreamInput) {
  let port: MessagePort | null = null
  let serial = 0
  let begun: Begun | null = null
  /**
   * A change that came before the stream for the change before it was heard. It waits for that stream: were it begun at once,
   * changes that come quickly enough would let the playing stream run dry without any new one ever being ready.
   */
  let waiting: Carry | null = null
  /** The stream that was last heard of, and where it was. It may be the one before `begun`. */
  let heardOf = { stream: 0, position: 0 }
  const send = (message: ToWorklet, transfer: Transferable[] = []) => port?.postMessage(message, transfer)

  /** The place that plays now, as a place of the stream that was begun last. */
  function position({ stream, at, insteadOf }: Begun): SampleIndex {
    if (heardOf.stream === stream) return heardOf.position
    return insteadOf === null ? at : at + Math.max(0, heardOf.position - insteadOf)
  }

  function begin(at: SampleIndex, insteadOf: SampleIndex | null, until: SampleIndex | null): void {
    const shift = at % GRID
    waiting = null
    begun = { stream: ++serial, at: at - shift, insteadOf: insteadOf === null ? null : insteadOf - shift, until }
    send({ type: 'stream', stream: begun.stream, at: begun.at, insteadOf: begun.insteadOf })
    void render(begun, input())
  }

  /** Begins anew, from the place that plays now, with the mix as it has become. */
  function beginChanged(before: Begun, carry: Carry): void {
    const insteadOf = isHeard(before) || before.insteadOf !== null ? heardOf.position : null
    begin(carry(position(before)), insteadOf, before.until === null ? null : carry(before.until))
  }

  const isHeard = ({ stream }: Begun) => heardOf.stream === stream

  async function render(own: Begun, { plan, source, hearing }: StreamInput): Promise<void> {
    const end = Math.min(plan.length, own.until ?? plan.length)
    let next = own.at
    for (let length = FIRST_BLOCK; begun === own; length = BLOCK) {
      if (next - position(own) > LEAD) {
        await new Promise((resolve) => setTimeout(resolve, PAUSE))
        continue
      }
      const block = await renderMix(plan, source, next, length).catch((error: unknown) => {
        console.error(error)
        return null
      })
      if (begun !== own) return
      // A sound that could not be had (the server is away) is asked for again; until then it is silent.
      if (!block) {
        if (waiting) return beginChanged(own, waiting)
        await new Promise((resolve) => setTimeout(resolve, ASK_AGAIN))
        continue
      }
      const last = next + length >= end
      const [left, right] = trimmed(heard(block, hearing), last ? Math.max(0, end - next) : length)
      send({ type: 'block', stream: own.stream, left, right, last }, [...new Set([left.buffer, right.buffer])])
      if (last) return
      next += length
    }
  }

  return {
    connect(newPort: MessagePort) {
      port = newPort
      port.onmessage = ({ data }: MessageEvent<PlayReport>) => {
        heardOf = data
        if (data.ended && data.stream === begun?.stream) begun = null
        if (begun && waiting && isHeard(begun)) beginChanged(begun, waiting)
      }
    },
    play(at: SampleIndex, until: SampleIndex | null) {
      begin(at, null, until)
    },
    stop() {
      begun = null
      waiting = null
      send({ type: 'halt' })
    },
    /** The mix has changed. */
    change(carry: Carry) {
      if (!begun) return
      const before = waiting
      if (isHeard(begun) || begun.insteadOf === null) beginChanged(begun, carry)
      else waiting = before ? (position) => carry(before(position)) : carry
    },
  }
}

function heard({ sum, tracks }: MixBlock, hearing: Hearing): Stereo {
  return hearing === 'all' ? sum : tracks[hearing]
}

const trimmed = ([left, right]: Stereo, frames: number): Stereo =>
  frames < left.length ? [left.slice(0, frames), right.slice(0, frames)] : [left, right]

import type { PlayReport, ToWorklet } from './protocol'

/** Plays the blocks that the mix worker renders, and says where it is. Runs on the audio thread. */

declare const registerProcessor: (name: string, processor: unknown) => void
declare const currentTime: number
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}

const FADE = 256
/** While the stream before lasts, the coming one is let run ahead so far: it must not run dry at once. */
const RESERVE = 14_400
const REPORT_EVERY = 6 // quanta: 16 ms

interface Stream {
  id: number
  position: number
  insteadOf: number | null
  blocks: { left: Float32Array; right: Float32Array }[]
  /** Place within the first block. */
  offset: number
  complete: boolean
}

class Player extends AudioWorkletProcessor {
  private playing: Stream | null = null
  private coming: Stream | null = null
  /** The stream that is being left, and how many samples of its fade remain. */
  private leaving: { stream: Stream; left: number } | null = null
  private worker: MessagePort | null = null
  private quanta = 0
  private missed = 0

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<MessagePort>) => {
      this.worker = data
      data.onmessage = (event: MessageEvent<ToWorklet>) => this.take(event.data)
    }
  }

  private take(message: ToWorklet): void {
    if (message.type === 'halt') {
      this.leave()
      this.coming = null
      return
    }
    if (message.type === 'stream') {
      const { stream: id, at: position, insteadOf } = message
      this.coming = { id, position, insteadOf, blocks: [], offset: 0, complete: false }
      return
    }
    const target = [this.playing, this.coming].find((stream) => stream?.id === message.stream)
    if (!target) return
    target.blocks.push({ left: message.left, right: message.right })
    target.complete = message.last
  }

  private leave(): void {
    if (this.playing) this.leaving = { stream: this.playing, left: FADE }
    this.playing = null
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0] as [Float32Array, Float32Array]
    this.takeOver(left.length)
    if (this.playing) this.fill(this.playing, left, right)
    if (this.leaving) this.fadeOut(this.leaving, left, right)
    if (this.playing && ++this.quanta % REPORT_EVERY === 0) this.report(this.playing, false)
    return true
  }

  /** Changes to the coming stream as soon as it has what is to be heard now, and what is to be heard next. */
  private takeOver(frames: number): void {
    const { coming, playing } = this
    if (!coming) return
    const skip = coming.insteadOf !== null && playing ? playing.position - coming.insteadOf : 0
    const reserve = playing && available(playing) > 2 * frames ? RESERVE : 0
    if (skip < 0 || (available(coming) < skip + frames + reserve && !coming.complete)) return
    discard(coming, skip)
    this.leave()
    this.playing = coming
    this.coming = null
  }

  private fill(stream: Stream, left: Float32Array, right: Float32Array): void {
    const got = read(stream, left, right)
    if (this.leaving) fadeIn(left, right, FADE - this.leaving.left)
    if (got === left.length) return
    if (!stream.complete) {
      this.missed += left.length - got
      return
    }
    this.playing = null
    this.report(stream, true)
  }

  private fadeOut(leaving: { stream: Stream; left: number }, left: Float32Array, right: Float32Array): void {
    const l = new Float32Array(left.length)
    const r = new Float32Array(left.length)
    read(leaving.stream, l, r)
    for (let i = 0; i < left.length && leaving.left > 0; i++, leaving.left--) {
      left[i]! += l[i]! * (leaving.left / FADE)
      right[i]! += r[i]! * (leaving.left / FADE)
    }
    if (leaving.left === 0) this.leaving = null
  }

  private report({ id, position }: Stream, ended: boolean): void {
    const report: PlayReport = { stream: id, position, time: currentTime + 128 / 48000, ended, missed: this.missed }
    this.port.postMessage(report)
    this.worker?.postMessage(report)
  }
}

const available = (stream: Stream) => stream.blocks.reduce((sum, { left }) => sum + left.length, -stream.offset)

function read(stream: Stream, left: Float32Array, right: Float32Array): number {
  let done = 0
  while (done < left.length && stream.blocks.length > 0) {
    const block = stream.blocks[0]!
    const count = Math.min(left.length - done, block.left.length - stream.offset)
    left.set(block.left.subarray(stream.offset, stream.offset + count), done)
    right.set(block.right.subarray(stream.offset, stream.offset + count), done)
    done += count
    advance(stream, count)
  }
  return done
}

function discard(stream: Stream, count: number): void {
  let left = count
  while (left > 0 && stream.blocks.length > 0) {
    const step = Math.min(left, stream.blocks[0]!.left.length - stream.offset)
    left -= step
    advance(stream, step)
  }
}

function advance(stream: Stream, count: number): void {
  stream.offset += count
  stream.position += count
  if (stream.offset < stream.blocks[0]!.left.length) return
  stream.blocks.shift()
  stream.offset = 0
}

/** `done` samples of the fade have passed already. */
function fadeIn(left: Float32Array, right: Float32Array, done: number): void {
  for (let i = 0; i < left.length && done + i < FADE; i++) {
    left[i]! *= (done + i) / FADE
    right[i]! *= (done + i) / FADE
  }
}

registerProcessor('yarn-step-player', Player)

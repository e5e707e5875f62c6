import type { Hertz, Seconds } from '@/core/units'
import type { CapturedBlock } from './protocol'

/** Hands on every sample of the microphone, one channel, in blocks. Runs on the audio thread. */

declare const registerProcessor: (name: string, processor: unknown) => void
/** Of the first sample of the block at hand, by the audio context's clock. */
declare const currentTime: Seconds
declare const sampleRate: Hertz
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}

/** 50 ms at 48 kHz. */
const BLOCK = 2400

class Capture extends AudioWorkletProcessor {
  private block = new Float32Array(BLOCK)
  private filled = 0

  process([input]: Float32Array[][]): boolean {
    const samples = input?.[0]
    if (!samples) return true
    for (let at = 0; at < samples.length;) {
      const count = Math.min(samples.length - at, BLOCK - this.filled)
      this.block.set(samples.subarray(at, at + count), this.filled)
      this.filled += count
      at += count
      if (this.filled < BLOCK) continue
      const block: CapturedBlock = { samples: this.block, end: currentTime + at / sampleRate }
      this.port.postMessage(block, [this.block.buffer])
      this.block = new Float32Array(BLOCK)
      this.filled = 0
    }
    return true
  }
}

registerProcessor('yarn-step-capture', Capture)

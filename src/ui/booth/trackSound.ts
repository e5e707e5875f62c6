import { HOUSE_RATE, type Hertz, type Seconds } from '@/core/units'
import type { CapturedBlock } from '@/workers/protocol'
import { deviceClock } from './pageTime'

/** Told samples, and the page time at which the last of them was heard: to a busy page both come late. */
export type SoundListener = (samples: Float32Array, heard: Seconds) => void

/** The sound of a microphone, every sample of it, mixed to one channel. */
export interface TrackSound {
  rate: Hertz
  listen(listener: SoundListener): () => void
  close(): void
}

/**
 * Frames straight from the device, where the browser gives them (W3C MediaStreamTrack Insertable Streams). An
 * AudioContext runs by the clock of the loudspeaker: where that differs from the microphone's, or the audio thread
 * comes late, it leaves out samples or puts in zeros.
 */
export const openTrackSound = (track: MediaStreamTrack): Promise<TrackSound> =>
  Processor ? fromFrames(new Processor({ track, maxBufferSize: WAITING })) : fromAudioThread(track)

/** TypeScript knows it for workers and pictures only; not every browser has it. */
const Processor = globalThis.MediaStreamTrackProcessor as
  (new (init: { track: MediaStreamTrack; maxBufferSize: number }) => Frames) | undefined
type Frames = { readable: ReadableStream<AudioData> }

/** Frames of 10 ms that may wait while the page is busy. */
const WAITING = 1000

async function fromFrames({ readable }: Frames): Promise<TrackSound> {
  const reader = readable.getReader()
  const listeners = listenersOf()
  const heard = deviceClock()
  const first = await reader.read()
  const rate = first.value?.sampleRate ?? HOUSE_RATE
  void handOn(first)
  return { rate, listen: listeners.add, close: () => void reader.cancel() }

  async function handOn(next: ReadableStreamReadResult<AudioData>): Promise<void> {
    while (!next.done) {
      const { timestamp, duration } = next.value
      listeners.tell(monoOf(next.value), heard((timestamp + duration) / 1e6))
      next.value.close()
      next = await reader.read()
    }
  }
}

function monoOf(frame: AudioData): Float32Array {
  const mono = new Float32Array(frame.numberOfFrames)
  const channel = new Float32Array(frame.numberOfFrames)
  for (let planeIndex = 0; planeIndex < frame.numberOfChannels; planeIndex++) {
    frame.copyTo(channel, { planeIndex, format: 'f32-planar' })
    channel.forEach((value, i) => (mono[i]! += value / frame.numberOfChannels))
  }
  return mono
}

async function fromAudioThread(track: MediaStreamTrack): Promise<TrackSound> {
  // Nobody listens to it: large buffers lose less on a busy machine.
  const context = new AudioContext({ sampleRate: HOUSE_RATE, latencyHint: 'playback' })
  await context.audioWorklet.addModule('/worklets/capture.worklet.js')
  await context.resume()
  const node = new AudioWorkletNode(context, 'yarn-step-capture', {
    numberOfOutputs: 0,
    channelCount: 1,
    channelCountMode: 'explicit',
  })
  const listeners = listenersOf()
  const heard = deviceClock()
  node.port.onmessage = ({ data: { samples, end } }: MessageEvent<CapturedBlock>) => listeners.tell(samples, heard(end))
  context.createMediaStreamSource(new MediaStream([track])).connect(node)
  return { rate: HOUSE_RATE, listen: listeners.add, close: () => void context.close() }
}

function listenersOf() {
  const listeners = new Set<SoundListener>()
  return {
    tell: (...heard: Parameters<SoundListener>) => listeners.forEach((listener) => listener(...heard)),
    add(listener: SoundListener) {
      listeners.add(listener)
      return () => void listeners.delete(listener)
    },
  }
}

import { afterEach, beforeEach, expect, jest, test } from '@jest/globals'
import { soundBank, TAKE } from '@/core/testing/lessons'
import { noise } from '@/core/testing/signals'
import type { SampleSource } from '@/core/mix/renderer'
import { mixOfTake } from '@/core/testing/mixes'
import type { PlayReport } from './protocol'
import { createStreamer, type StreamInput } from './stream'

/** The streamer and the worklet together: what comes out of both while the mix changes. The clock goes on as the test tells it to. */

const QUANTUM = 128
const TICK = 2 // ms
/** Of the real clock, which comes after all that can go on. */
const allThatCanGoOn = setImmediate

beforeEach(() => void jest.useFakeTimers())
afterEach(() => void jest.useRealTimers())

const bank = soundBank({ [TAKE]: [noise(48_000 * 8, 5).map((value) => value * 0.2)] })

interface Worklet {
  port: { onmessage(event: { data: unknown }): void; postMessage(report: PlayReport): void }
  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean
}

async function openWorklet(): Promise<Worklet> {
  const made: (new () => Worklet)[] = []
  Object.assign(globalThis, {
    currentTime: 0,
    AudioWorkletProcessor: class {
      port = { onmessage: null, postMessage() {} }
    },
    registerProcessor: (_name: string, processor: new () => Worklet) => made.push(processor),
  })
  await import('./player.worklet')
  return new made[0]!()
}

interface End {
  onmessage: ((event: { data: unknown }) => void) | null
  postMessage(data: unknown): void
}

/** Two ends of a line, as those of a MessageChannel: what one posts the other is told a moment later. */
function line(): [MessagePort, MessagePort] {
  const ends: End[] = [1, 0].map((other) => ({
    onmessage: null,
    postMessage: (data) => void setTimeout(() => ends[other]!.onmessage?.({ data }), 0),
  }))
  return ends as unknown as [MessagePort, MessagePort]
}

/** What is played in so many milliseconds; meanwhile `act` every 30 ms. */
async function playedFor(worklet: Worklet, lasting: number, act: () => void): Promise<Float32Array> {
  const out: Float32Array[] = []
  for (let now = 0; now < lasting; now += TICK) {
    await jest.advanceTimersByTimeAsync(TICK)
    // What is rendered takes no time here but what its source takes.
    await new Promise(allThatCanGoOn)
    for (; out.length * QUANTUM < now * 48;) {
      const pair = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)]
      worklet.process([], [pair])
      out.push(pair[0]!)
    }
    if (now > 600 && now % 30 === 0) act()
  }
  return Float32Array.from(out.flatMap((part) => [...part]))
}

test('a mix that changes all the time on a slow machine never falls silent, and ends as the last change', async () => {
  const slowly: SampleSource = async (...asked) => {
    await new Promise((resolve) => setTimeout(resolve, 40))
    return bank.source(...asked)
  }
  let input: StreamInput = { plan: mixOfTake(0, 8), source: slowly, hearing: 'all' }
  const streamer = createStreamer(() => input)
  const [ours, theirs] = line()
  const worklet = await openWorklet()
  worklet.port.onmessage({ data: theirs })
  streamer.connect(ours)
  streamer.play(0, null)
  let changes = 0
  const sound = await playedFor(worklet, 4500, () => {
    if (changes === 80) return
    input = { ...input, plan: mixOfTake(-0.125 * ++changes, 8) }
    streamer.change((position) => position)
  })
  streamer.stop()
  expect(changes).toBe(80)
  const loudness = (from: number, to: number) =>
    10 * Math.log10(sound.subarray(from, to).reduce((sum, value) => sum + value * value, 0) / (to - from))
  const begun = sound.findIndex((value) => value !== 0)
  expect(begun).toBeLessThan(24_000)
  for (let at = begun; at + 960 <= sound.length; at += 960) expect(loudness(at, at + 960)).toBeGreaterThan(-60)
  expect(loudness(begun, begun + 9600) - loudness(sound.length - 9600, sound.length)).toBeCloseTo(10, 0)
})

import { jest } from '@jest/globals'
import { renderMix } from '@/core/mix/renderer'
import { soundBank, TAKE } from '@/core/testing/lessons'
import { mixOfTake } from '@/core/testing/mixes'
import { noise } from '@/core/testing/signals'
import type { Hearing, PlayReport, ToWorklet } from './protocol'
import { createStreamer } from './stream'

/** The streamer's talk with a worklet that is played by the test. */

const bank = soundBank({ [TAKE]: [noise(48000 * 4, 5).map((value) => value * 0.2)] })

function open() {
  const sent: ToWorklet[] = []
  const port = {
    postMessage: (message: ToWorklet) => sent.push(message),
    onmessage: null as null | ((event: { data: PlayReport }) => void),
  }
  const input = { plan: mixOfTake(0), source: bank.source, hearing: 'all' as Hearing }
  const streamer = createStreamer(() => input)
  streamer.connect(port as unknown as MessagePort)
  const report = (stream: number, position: number, ended = false) =>
    port.onmessage!({ data: { stream, position, time: 0, ended, missed: 0 } })
  return { sent, input, streamer, report }
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 150))
const blocksOf = (sent: ToWorklet[], stream: number) =>
  sent.flatMap((one) => (one.type === 'block' && one.stream === stream ? [one] : []))
const streamsOf = (sent: ToWorklet[]) => sent.filter(({ type }) => type === 'stream')
const joined = (blocks: { left: Float32Array }[]) => Float32Array.from(blocks.flatMap(({ left }) => [...left]))

test('plays from a place, a little ahead and no further, with exactly the samples of the mix', async () => {
  const { sent, streamer, report } = open()
  streamer.play(9600, null)
  const length = () => joined(blocksOf(sent, 1)).length
  for (let i = 0; i < 50 && length() < 48_000; i++) await settled()
  await settled()
  expect(sent[0]).toEqual({ type: 'stream', stream: 1, at: 9600, insteadOf: null })
  const ahead = joined(blocksOf(sent, 1))
  // A second, and the block in which it ended.
  expect(ahead.length).toBeGreaterThanOrEqual(48_000)
  expect(ahead.length).toBeLessThan(60_000)
  expect(ahead).toEqual((await renderMix(mixOfTake(0), bank.source, 9600, ahead.length)).sum[0])
  report(1, 9600 + 12_000)
  await settled()
  expect(joined(blocksOf(sent, 1)).length).toBeGreaterThan(ahead.length + 9000)
  streamer.stop()
})

test('a place between grid points begins at the grid point before it', async () => {
  const { sent, streamer } = open()
  streamer.play(1000, null)
  streamer.stop()
  expect(sent[0]).toMatchObject({ at: 992 })
})

test('a change takes over at the place that is heard, and is rendered from the new plan', async () => {
  const { sent, input, streamer, report } = open()
  streamer.play(0, null)
  await settled()
  report(1, 4800)
  input.plan = mixOfTake(-6)
  streamer.change((position) => position + 9600)
  await settled()
  expect(streamsOf(sent).at(-1)).toEqual({
    type: 'stream',
    stream: 2,
    at: 14_400,
    insteadOf: 4800,
  })
  const fresh = joined(blocksOf(sent, 2))
  expect(fresh).toEqual((await renderMix(mixOfTake(-6), bank.source, 14_400, fresh.length)).sum[0])
  streamer.stop()
})

test('a change that comes before the one before it is heard waits for that, and is carried on from there', async () => {
  const { sent, streamer, report } = open()
  streamer.play(0, null)
  await settled()
  report(1, 3200)
  streamer.change((position) => position + 3200)
  // The worklet has not taken over yet, and is 640 samples further on.
  report(1, 3840)
  streamer.change((position) => position + 3200)
  streamer.change((position) => position * 2)
  await settled()
  expect(streamsOf(sent)).toHaveLength(2)
  report(2, 7040)
  expect(streamsOf(sent).at(-1)).toEqual({ type: 'stream', stream: 3, at: 2 * (7040 + 3200), insteadOf: 7040 })
  streamer.stop()
})

test('ends where it was told to, or with the lesson', async () => {
  const { sent, streamer, report } = open()
  streamer.play(0, 4000)
  await settled()
  expect(joined(blocksOf(sent, 1)).length).toBe(4000)
  expect(blocksOf(sent, 1).at(-1)!.last).toBe(true)
  report(1, 4000, true)
  streamer.change((position) => position)
  expect(streamsOf(sent)).toHaveLength(1)
  streamer.play(190_400, null)
  await settled()
  expect(joined(blocksOf(sent, 2)).length).toBe(1600)
})

test('the voice alone is what the voice is in the mix', async () => {
  const { sent, input, streamer } = open()
  input.hearing = 'voice'
  streamer.play(0, 9600)
  await settled()
  const whole = await renderMix(mixOfTake(0), bank.source, 0, 9600)
  expect(joined(blocksOf(sent, 1))).toEqual(whole.tracks.voice[0])
  expect(whole.tracks.bed[0].every((value) => value === 0)).toBe(true)
})

test('a sound that can not be had for a while is heard when it can, and playing goes on', async () => {
  const { sent, input, streamer } = open()
  const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
  let away = true
  input.source = async (...args) => {
    if (away) throw new Error('the server is away')
    return bank.source(...args)
  }
  streamer.play(0, null)
  await settled()
  expect(blocksOf(sent, 1)).toEqual([])
  away = false
  await new Promise((resolve) => setTimeout(resolve, 500))
  const played = joined(blocksOf(sent, 1))
  expect(played.length).toBeGreaterThan(10_000)
  expect(played).toEqual((await renderMix(mixOfTake(0), bank.source, 0, played.length)).sum[0])
  streamer.stop()
  quiet.mockRestore()
})

test('a change that can not be had is given up for the next one', async () => {
  const { sent, input, streamer, report } = open()
  const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
  streamer.play(0, null)
  await settled()
  report(1, 4800)
  const { source } = input
  input.source = () => Promise.reject(new Error('that sound is gone'))
  streamer.change((position) => position)
  await settled()
  input.source = source
  streamer.change((position) => position)
  await new Promise((resolve) => setTimeout(resolve, 500))
  expect(joined(blocksOf(sent, 3)).length).toBeGreaterThan(10_000)
  streamer.stop()
  quiet.mockRestore()
})

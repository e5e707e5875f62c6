import { afterEach, beforeEach, expect, jest, test } from '@jest/globals'
import { deviceClock } from './pageTime'
import { takeSound } from './takeSound'
import type { SoundListener } from './trackSound'

/** A microphone of 100 samples a second that counts them, and whose blocks of 10 reach the page when the test says so. */
function microphone() {
  const listeners = new Set<SoundListener>()
  const give = (block: number) => {
    const samples = Float32Array.from({ length: 10 }, (_, i) => block * 10 + i)
    for (const listener of listeners) listener(samples, (block + 1) / 10)
  }
  const source = {
    rate: 100,
    listen: (listener: SoundListener) => (listeners.add(listener), () => void listeners.delete(listener)),
    close() {},
  }
  return { source, give, listeners }
}

/** The page's clock stands still unless it is told to go on. */
beforeEach(() => void jest.useFakeTimers({ now: 0 }))
afterEach(() => void jest.useRealTimers())

function takeFrom(source: ReturnType<typeof microphone>['source']) {
  const samples: number[] = []
  return { samples, ...takeSound(source, (block) => samples.push(...block)) }
}

test('what was heard before is not taken, and what comes late is', async () => {
  const { source, give, listeners } = microphone()
  jest.advanceTimersByTime(500)
  const taken = takeFrom(source)
  jest.advanceTimersByTime(1000)
  // A busy page: nothing has reached it for 1.5 s, and now it has only come to 1.0.
  for (let block = 0; block < 10; block++) give(block)
  expect(taken.samples[0]).toBe(50)
  expect(taken.time()).toBeCloseTo(0.5, 9)
  expect(taken.placeAt(1.5)).toBeCloseTo(1, 9)
  // A key that was pressed a while ago: to a busy page it comes late, too.
  expect(taken.placeAt(0.8)).toBeCloseTo(0.3, 9)
  expect(taken.placeAt(1.2)).toBeCloseTo(0.7, 9)
  let isOver = false
  const end = taken.end().then(() => (isOver = true))
  await jest.advanceTimersByTimeAsync(600)
  expect(isOver).toBe(false)
  for (let block = 10; block < 20; block++) give(block)
  await jest.advanceTimersByTimeAsync(20)
  await end
  // To the end of what was heard when it was stopped, at 1.5; not what was heard after.
  expect(taken.samples).toEqual(Array.from({ length: 100 }, (_, i) => 50 + i))
  expect(taken.missing()).toBe(0)
  expect(listeners.size).toBe(0)
})

test('a device that gives nothing any more is not waited for', async () => {
  const { source, give } = microphone()
  const taken = takeFrom(source)
  give(0)
  jest.advanceTimersByTime(3000)
  const end = taken.end()
  await jest.advanceTimersByTimeAsync(1020)
  await end
  expect(taken.samples).toHaveLength(10)
})

test('blocks that never came are counted', () => {
  const { source, give } = microphone()
  const taken = takeFrom(source)
  for (const block of [0, 1, 5, 6]) give(block)
  expect(taken.missing()).toBeCloseTo(0.3, 9)
  expect(taken.time()).toBeCloseTo(0.4, 9)
})

test('a device may count from anywhere: the least delay is none', () => {
  const heard = deviceClock()
  jest.advanceTimersByTime(1200)
  expect(heard(71)).toBeCloseTo(1.2, 9)
  jest.advanceTimersByTime(500)
  // 0.1 s of sound after 0.5 s: 0.4 s late.
  expect(heard(71.1)).toBeCloseTo(1.3, 9)
  // And the first was late by 0.05 s: what is heard from now on is placed right.
  jest.advanceTimersByTime(50)
  expect(heard(71.6)).toBeCloseTo(1.75, 9)
})

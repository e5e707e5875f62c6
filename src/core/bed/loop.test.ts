import { partOfAnalysis } from '@/core/measure/analysis'
import { analyse } from '@/core/testing/lessons'
import { HOUSE_RATE } from '@/core/units'
import { findLoop, layBed, seamsOf } from './loop'

const BEAT = 0.5
const BAR = 4 * BEAT
const BARS = 24

/** Four chords, a bar each, round and round; the last bar dies away. A stroke on every beat. */
function piece(): Float32Array {
  const out = new Float32Array(BARS * BAR * HOUSE_RATE)
  const { sin, exp, PI, floor } = Math
  // Triads far enough apart to be told by their third octaves.
  const chords = [
    [110, 277, 660],
    [147, 370, 880],
    [196, 494, 1175],
    [131, 330, 784],
  ]
  for (let i = 0; i < out.length; i++) {
    const time = i / HOUSE_RATE
    const bar = floor(time / BAR)
    const [low, middle, high] = chords[bar % 4]! as [number, number, number]
    const ring = exp(-(time % BEAT) * 4)
    const end = bar === BARS - 1 ? exp(-(time % BAR) * 2.5) : 1
    const chord = sin(2 * PI * low * time) + 0.7 * sin(2 * PI * middle * time) + 0.5 * sin(2 * PI * high * time)
    out[i] = 0.1 * end * (chord + ring * sin(2 * PI * 4 * middle * time))
  }
  return out
}
const analysis = analyse([piece()])
const whole = BARS * BAR

test('goes round by whole turns of the chords, so that the beat runs on', () => {
  const { start, end } = findLoop(analysis)
  const turns = (end - start) / (4 * BAR)
  expect(Math.abs(turns - Math.round(turns)) * 4 * BAR).toBeLessThan(0.03)
  const runs = layBed(analysis, 3 * whole)
  expect(runs.at(-1)!.at + runs.at(-1)!.to - runs.at(-1)!.from).toBeCloseTo(3 * whole, 6)
  for (const { score } of seamsOf(analysis, runs)) expect(score).toBeLessThan(6)
})

test('a piece that is too long leaves out whole bars and keeps its own ending', () => {
  const length = whole - 4 * BAR + 0.8
  const runs = layBed(analysis, length)
  expect(runs).toHaveLength(2)
  const [first, second] = runs as [(typeof runs)[0], (typeof runs)[0]]
  expect(second.to).toBeCloseTo(whole, 6)
  const end = second.at + second.to - second.from
  expect(end).toBeLessThanOrEqual(length + 0.06)
  expect(end).toBeGreaterThan(length - 2.1)
  const left = second.from + 0.5 - (first.to - 0.5)
  expect(Math.abs(left / BAR - Math.round(left / BAR)) * BAR).toBeLessThan(0.03)
})

test('a piece about as long as needed is left as it is', () => {
  expect(layBed(analysis, whole - 0.5)).toEqual([{ at: 0, from: 0, to: whole - 0.5, fadeIn: 0, fadeOut: 0 }])
})

test.each([0, 0.04, 0.3])('a part of %d s is laid once as it is, and the search ends', (length) => {
  const short = partOfAnalysis(analysis, 3, 3 + length)
  const runs = layBed(short, 600)
  expect(runs.length).toBeLessThanOrEqual(1)
  for (const run of runs) expect(run.to - run.from).toBeLessThan(0.5)
})

import { speechShare, tellApart } from './speechOrMusic'

const frames = (...parts: [speech: number, energy: number, count: number][]) =>
  parts.flatMap(([speech, energy, count]) => Array.from({ length: count }, () => ({ speech, energy })))

test('pauses say nothing, whatever the detector makes of them', () => {
  expect(speechShare(frames([0.9, 1, 60], [0.1, 1, 20], [0.1, 0.0001, 400]))).toBe(0.75)
  expect(speechShare(frames([0.1, 1, 60], [0.9, 0.0001, 400]))).toBe(0)
  expect(speechShare([])).toBe(0.5)
})

test('narration and music are told apart; between them it is asked', () => {
  const sounds = [
    { item: 'reading', share: 0.9 },
    { item: 'song', share: 0.02 },
    { item: 'choir', share: 0.4 },
  ]
  expect(tellApart(sounds)).toEqual({ voice: ['reading'], music: ['song'], unsure: ['choir'] })
  expect(tellApart(sounds.slice(2))).toEqual({ voice: [], music: [], unsure: ['choir'] })
})

test('of two sounds one is each where they differ clearly', () => {
  const pair = (a: number, b: number) =>
    tellApart([
      { item: 'a', share: a },
      { item: 'b', share: b },
    ])
  expect(pair(0.4, 0.9)).toEqual({ voice: ['b'], music: ['a'], unsure: [] })
  expect(pair(0.4, 0.01)).toEqual({ voice: ['a'], music: ['b'], unsure: [] })
  expect(pair(0.9, 0.7)).toEqual({ voice: ['a', 'b'], music: [], unsure: [] })
  expect(pair(0.4, 0.45)).toEqual({ voice: [], music: [], unsure: ['a', 'b'] })
})

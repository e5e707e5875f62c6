import { inBoth, tones, type Tone } from '@/core/testing/signals'
import { createEnergyMeter } from './energyMeter'
import { momentarySeries, reportLoudness, shortTermSeries } from './loudness'

/** The minimum-requirement signals of EBU Tech 3341 and 3342 that are defined by formula. Tolerance 0.1 LU, range 1 LU. */

const measure = (channels: Float32Array[], rate = 48000) => {
  const meter = createEnergyMeter(rate, channels.length)
  for (let at = 0; at < channels[0]!.length; at += 4099) meter.push(channels.map((c) => c.subarray(at, at + 4099)))
  return meter.track()
}
const stereo = (stretches: Tone[]) => measure(inBoth(tones(stretches)))
const within = (value: number | null, expected: number, tolerance = 0.1) => {
  expect(value).not.toBeNull()
  expect(Math.abs(value! - expected)).toBeLessThanOrEqual(tolerance)
}
const twenty = Array.from({ length: 20 }, (_, i) => i)
const silence = -Infinity

test('what is the same array on both sides measures as two alike do, also before and after something else', () => {
  const [a, b] = [tones([[-20, 1]]), tones([[-30, 1]])]
  const parts: [Float32Array, Float32Array][] = [
    [a, a],
    [a, b],
    [b, b],
  ]
  const meters = [createEnergyMeter(48000, 2), createEnergyMeter(48000, 2)]
  for (const [left, right] of parts) {
    meters[0]!.push([left, right])
    meters[1]!.push([left, right.slice()])
  }
  expect(meters[0]!.track()).toEqual(meters[1]!.track())
})

describe('EBU Tech 3341', () => {
  test.each<[number, Tone[], number]>([
    [1, [[-23, 20]], -23],
    [2, [[-33, 20]], -33],
    [
      3,
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
      -23,
    ],
    [
      4,
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
      -23,
    ],
    [
      5,
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
      -23,
    ],
  ])('case %i: integrated', (_, stretches, expected) => {
    within(reportLoudness(stereo(stretches)).integrated, expected)
  })

  test('case 1 and 2: momentary and short-term read the same', () => {
    for (const level of [-23, -33]) {
      const report = reportLoudness(stereo([[level, 20]]))
      within(report.maxMomentary, level)
      within(report.maxShortTerm, level)
    }
  })

  test('case 6: 5.0 channels', () => {
    const at = (level: number) => tones([[level, 20]])
    within(reportLoudness(measure([at(-28), at(-28), at(-24), at(-30), at(-30)])).integrated, -23)
  })

  test('case 6 as 5.1: the low-frequency channel does not count', () => {
    const at = (level: number) => tones([[level, 20]])
    within(reportLoudness(measure([at(-28), at(-28), at(-24), at(-3), at(-30), at(-30)])).integrated, -23)
  })

  test('case 9: short-term is constant', () => {
    const pair: Tone[] = [
      [-20, 1.34],
      [-30, 1.66],
    ]
    const series = shortTermSeries(stereo(Array.from({ length: 5 }, () => pair).flat()))
    expect(series.length).toBeGreaterThan(100)
    for (const value of series) within(value, -23)
  })

  test.each(twenty)('case 10.%i: maximum short-term of a 3 s burst', (i) => {
    within(
      reportLoudness(
        stereo([
          [silence, i * 0.15],
          [-23, 3],
          [silence, 1],
        ]),
      ).maxShortTerm,
      -23,
    )
  })

  test('case 11: maximum short-term of successive bursts', () => {
    const burst = (i: number): Tone[] => [
      [silence, i * 0.15],
      [-38 + i, 3],
      [silence, 3 - i * 0.15],
    ]
    const track = stereo(twenty.flatMap(burst))
    for (const i of twenty) within(reportLoudness(track.slice(0, (i + 1) * 600)).maxShortTerm, -38 + i)
  })

  test('case 12: momentary is constant', () => {
    const pair: Tone[] = [
      [-20, 0.18],
      [-30, 0.22],
    ]
    const series = momentarySeries(stereo(Array.from({ length: 25 }, () => pair).flat()))
    for (const value of series) within(value, -23)
  })

  test.each(twenty)('case 13.%i: maximum momentary of a 400 ms burst', (i) => {
    within(
      reportLoudness(
        stereo([
          [silence, i * 0.02],
          [-23, 0.4],
          [silence, 1],
        ]),
      ).maxMomentary,
      -23,
    )
  })

  test('case 14: maximum momentary of successive bursts', () => {
    const burst = (i: number): Tone[] => [
      [silence, i * 0.02],
      [-38 + i, 0.4],
      [silence, 0.4 - i * 0.02],
    ]
    const track = stereo(twenty.flatMap(burst))
    for (const i of twenty) within(reportLoudness(track.slice(0, (i + 1) * 80)).maxMomentary, -38 + i)
  })
})

describe('EBU Tech 3342', () => {
  test.each<[number, Tone[], number]>([
    [
      1,
      [
        [-20, 20],
        [-30, 20],
      ],
      10,
    ],
    [
      2,
      [
        [-20, 20],
        [-15, 20],
      ],
      5,
    ],
    [
      3,
      [
        [-40, 20],
        [-20, 20],
      ],
      20,
    ],
    [
      4,
      [
        [-50, 20],
        [-35, 20],
        [-20, 20],
        [-35, 20],
        [-50, 20],
      ],
      15,
    ],
  ])('case %i: loudness range', (_, stretches, expected) => {
    within(reportLoudness(stereo(stretches)).range, expected, 1)
  })
})

test('other sample rates measure the same', () => {
  for (const rate of [8000, 16000, 22050, 44100, 96000]) {
    within(reportLoudness(measure(inBoth(tones([[-23, 20]], 1000, rate)), rate)).integrated, -23)
  }
})

test('silence and sounds that are too short have no loudness', () => {
  const nothing = { integrated: null, range: null, maxMomentary: null, maxShortTerm: null }
  expect(reportLoudness(stereo([[silence, 5]]))).toEqual(nothing)
  expect(reportLoudness(stereo([[-20, 0.3]]))).toEqual(nothing)
  expect(reportLoudness(new Float32Array(0))).toEqual(nothing)
})

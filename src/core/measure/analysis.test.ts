import { readAnalysis, writeAnalysis } from '@/core/formats/analysis'
import { analyse, speechLike } from '@/core/testing/lessons'
import { noise, tones } from '@/core/testing/signals'
import { createAnalyser } from './analysis'
import { BAND_CENTRES, bandByteToDecibels } from './bands'
import { integratedLoudness } from './loudness'
import { speechSegments } from './speech'

test('a mono sound is as loud as it will be from two loudspeakers', () => {
  const tone = tones([[-23, 5]])
  expect(integratedLoudness(analyse([tone, tone]).energy)).toBeCloseTo(-23, 1)
  expect(integratedLoudness(analyse([tone]).energy)).toBeCloseTo(-23, 1)
})

test('the waveform shows the extremes of every 10 ms', () => {
  const sound = new Float32Array(48000)
  sound[5000] = 0.5
  sound[5100] = -1
  const { wave } = analyse([sound])
  expect(wave).toHaveLength(200)
  const hop = Math.floor(5000 / 480)
  expect([wave[2 * hop], wave[2 * hop + 1]]).toEqual([-127, 64])
  expect(wave.filter((value) => value !== 0)).toHaveLength(2)
})

test('a sine shows in its own third octave, at its own level', () => {
  const { bands } = analyse([tones([[-12, 2]], 1000)])
  const row = [...bands.subarray(5 * BAND_CENTRES.length, 6 * BAND_CENTRES.length)].map(bandByteToDecibels)
  const loudest = row.indexOf(Math.max(...row))
  expect(BAND_CENTRES[loudest]).toBeCloseTo(1000, 6)
  expect(Math.abs(row[loudest]! + 12)).toBeLessThan(1)
  expect(Math.max(...row.filter((_, i) => Math.abs(i - loudest) > 1))).toBeLessThan(-40)
})

test('it does not matter how a sound is cut into blocks', () => {
  const sound = noise(48000 * 2)
  const analyser = createAnalyser(1)
  for (let at = 0; at < sound.length; at += 777) analyser.push([sound.subarray(at, at + 777)])
  const [cut, whole] = [analyser.finish(), analyse([sound])]
  expect(cut.wave).toEqual(whole.wave)
  expect(cut.bands).toEqual(whole.bands)
  cut.energy.forEach((value, i) => expect(value).toBeCloseTo(whole.energy[i]!, 9))
})

test('an analysis survives being written and read', () => {
  const analysis = analyse([noise(48000)])
  expect(readAnalysis(writeAnalysis(analysis))).toEqual(analysis)
  expect(() => readAnalysis(new Uint8Array(100))).toThrow('not an analysis')
})

describe('speech activity', () => {
  const parts = [
    [null, 1],
    [-12, 2],
    [null, 0.8],
    [-18, 3],
    [null, 0.5],
    [-12, 2],
    [null, 1],
  ] as const
  const expected = [
    [1, 3],
    [3.8, 6.8],
    [7.3, 9.3],
  ]

  test.each([0, 0.001, 0.004])('finds the stretches of speech in room noise of %f', (room) => {
    const sound = speechLike(parts)
    const floor = noise(sound.length, 9)
    const track = analyse([sound.map((value, i) => value + room * floor[i]!)]).energy
    const segments = speechSegments(track)
    expect(segments).toHaveLength(3)
    segments.forEach(({ start, end }, i) => {
      expect(Math.abs(start - expected[i]![0]!)).toBeLessThan(0.12)
      expect(Math.abs(end - expected[i]![1]!)).toBeLessThan(0.2)
    })
  })

  test('silence and very soft sounds hold no speech', () => {
    expect(speechSegments(new Float32Array(500))).toEqual([])
    expect(speechSegments(analyse([noise(96000).map((value) => value * 1e-5)]).energy)).toEqual([])
  })
})

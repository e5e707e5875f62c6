import { lessonOver, musicLike, SONG, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { balanceOf } from './courseBalance'
import { usualTargets } from './courseTargets'

const voice = speechLike([
  [null, 0.5],
  [-14, 5],
  [null, 0.6],
  [-14, 5],
  [null, 0.5],
])
const { analysisOf } = soundBank({ [TAKE]: [voice], [SONG]: [musicLike(12, -9)] })

const heard = { analysisOf, soundOf: (take: string) => take }

test('a lesson measures what it is set to; without music only its voice', () => {
  const lesson = lessonOver([0, 11.6])
  const balance = balanceOf('a', lesson, heard)
  // The ride may be as much off as its tube is wide.
  expect(Math.abs(balance.clearance! - 16)).toBeLessThan(1.6)
  expect(balance.within).toBeGreaterThan(0.98)
  expect(Math.abs(balance.voice! - -16)).toBeLessThan(1.5)
  const softer = { ...lesson, targets: { ...lesson.targets, clearance: 22 } }
  expect(balanceOf('b', softer, heard).clearance! - balance.clearance!).toBeCloseTo(6, 0)
  expect(balanceOf('c', lessonOver([0, 11.6], false), heard)).toMatchObject({ clearance: null, within: null })
})

test('what most lessons of a course have is usual, each target by itself', () => {
  const targets = (loudness: number, clearance: number) => ({ loudness, clearance, swell: 6 })
  expect(usualTargets([targets(-16, 20), targets(-18, 20), targets(-16, 14)])).toEqual(targets(-16, 20))
  expect(usualTargets([])).toEqual({ loudness: -16, clearance: 16, swell: 6 })
})

import { layoutLesson } from '@/core/lesson/layout'
import type { Lesson } from '@/core/lesson/document'
import { lessonOver, SONG, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { drawBalance } from './balancePicture'
import { clearanceReadings } from './balanceSheet'
import { planMix } from './plan'

const SENTENCES: [number | null, number][] = Array.from({ length: 8 }, (_, i): [number | null, number] =>
  i % 2 === 0 ? [null, 1] : [-12, 4],
)
/** Music in all bands, so that it covers speech of the same spectrum evenly. */
const broad = noise(12 * HOUSE_RATE, 7).map((value, i) => value * 0.2 * (1 + 0.1 * Math.sin(i / HOUSE_RATE)))
const bank = soundBank({ [TAKE]: [speechLike(SENTENCES)], [SONG]: [broad, broad] })

function lessonWith(pocket: Partial<Lesson['pocket']>, clearance = 10): Lesson {
  const lesson = lessonOver([0, 9.7, 19.8])
  return {
    ...lesson,
    pocket: { ...lesson.pocket, on: true, depth: 6, ...pocket },
    targets: { ...lesson.targets, clearance },
  }
}

function planned(lesson: Lesson) {
  const timeline = layoutLesson(lesson)
  const mix = planMix(lesson, timeline, bank.analysisOf)
  const readings = clearanceReadings(mix.levels.voice, mix.levels.bed, mix.levels.speech).map((one) => one.clearance)
  const median = readings.sort((a, b) => a - b)[readings.length >> 1]!
  return { mix, median, picture: drawBalance(lesson, timeline, mix, bank.analysisOf) }
}

test('music comes nearer for what its pocket gives, and the words are as easy to follow as without both', () => {
  const [off, on] = [planned(lessonWith({ on: false })), planned(lessonWith({}))]
  expect(on.median).toBeCloseTo(off.median, 0)
  const { worth, plain, dipped } = on.picture.index!
  expect(worth).toBeGreaterThan(0.7)
  expect(worth).toBeLessThan(3)
  expect(dipped).toBeGreaterThan(plain)
  // Without the pocket it is the lesson in which it is off.
  expect(Math.abs(plain - off.picture.index!.dipped)).toBeLessThan(0.02)

  const nearer = planned(lessonWith({ nearer: worth }))
  expect(on.median - nearer.median).toBeCloseTo(worth, 0)
  expect(Math.abs(nearer.picture.index!.plain - plain)).toBeLessThan(0.02)
  expect(nearer.picture.index!.dipped).toBeGreaterThan(plain - 0.02)
  expect(nearer.picture.index!.dipped).toBeLessThan(dipped)
  // What it is worth does not depend on what has been spent.
  expect(Math.abs(nearer.picture.index!.worth - worth)).toBeLessThan(0.3)
})

test('it stays where it is without a pocket, and where the level itself is asked for', () => {
  expect(planned(lessonWith({ on: false, nearer: 2 })).median).toBeCloseTo(planned(lessonWith({ on: false })).median, 6)
  const [wcag, spent] = [planned(lessonWith({}, 20)), planned(lessonWith({ nearer: 2 }, 20))]
  expect(spent.median).toBeCloseTo(wcag.median, 6)
})

import type { BedCue, Lesson } from '@/core/lesson/document'
import { newBed } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { lessonOver, musicLike, SONG, soundBank, TAKE } from '@/core/testing/lessons'
import type { SpeechSegment } from '@/core/measure/speech'
import { HOUSE_RATE } from '@/core/units'
import { bedClips, bedSeams, clearanceTrack } from './bedClips'

const OTHER = '4'.repeat(64)
const bank = soundBank({
  [SONG]: [musicLike(40, -12)],
  [OTHER]: [musicLike(40, -14, 9)],
  [TAKE]: [new Float32Array(HOUSE_RATE)],
})

/** Three steps of ten seconds; the second piece begins with the last one. */
function lessonWith(first: Partial<BedCue>, second: Partial<BedCue>): Lesson {
  const lesson = lessonOver([0, 10, 20, 30], false)
  return {
    ...lesson,
    bedCues: [
      { ...newBed('a', SONG, 's0'), ...first },
      { ...newBed('b', OTHER, 's2'), ...second },
    ],
  }
}

/** Where each of the two is heard, in whatever parts, and how it begins and ends. */
function pieces(first: Partial<BedCue> = {}, second: Partial<BedCue> = {}, speech: SpeechSegment[] = []) {
  const clips = bedClips(layoutLesson(lessonWith(first, second)), speech, bank.analysisOf)
  return [SONG, OTHER].map((media) => {
    const own = clips.filter((clip) => clip.media === media)
    const [begin, end] = [own[0]!, own.at(-1)!]
    return {
      from: begin.from / HOUSE_RATE,
      start: begin.at / HOUSE_RATE,
      end: (end.at + end.length) / HOUSE_RATE,
      fadeIn: begin.fadeIn / HOUSE_RATE,
      fadeOut: end.fadeOut / HOUSE_RATE,
    }
  })
}

test('a piece sounds on into the next one for as long as they are blended', () => {
  const [a, b] = pieces({}, { blend: 3 })
  expect(a).toMatchObject({ start: 0, fadeOut: 3 })
  // Its own ending may come a little early.
  expect(Math.abs(a!.end - 23)).toBeLessThan(0.1)
  expect(b).toMatchObject({ start: 20, end: 30, fadeIn: 3 })
})

test('without blending one ends where the other begins, neither with a click', () => {
  const [a, b] = pieces({}, { blend: 0 })
  expect(a).toMatchObject({ end: 20 })
  expect(a!.fadeOut).toBeGreaterThanOrEqual(1)
  expect(b).toMatchObject({ start: 20, fadeIn: 0.4 })
})

test('with an end of its own it leaves a gap, and the next one begins afresh', () => {
  const [a, b] = pieces({ last: 's0' }, { blend: 3 })
  expect(a).toMatchObject({ start: 0, end: 10 })
  expect(b).toMatchObject({ start: 20, fadeIn: 0.4 })
})

test('the last one fades from the last word on', () => {
  const speech = [{ start: 1, end: 27.5 }]
  expect(pieces({}, {}, speech)[1]!.fadeOut).toBeCloseTo(2.5, 3)
  // But within bounds, however early or late that was.
  expect(pieces({}, {}, [{ start: 1, end: 5 }])[1]!.fadeOut).toBe(4)
  expect(pieces({}, {}, [{ start: 1, end: 29.9 }])[1]!.fadeOut).toBe(1)
})

test('where a fade is set the clip only keeps from clicking', () => {
  const [, b] = pieces({ last: 's0' }, { fadeIn: 2, fadeOut: 5 })
  expect(b!.fadeIn).toBe(0.02)
  expect(b!.fadeOut).toBe(0.02)
})

test('only the part of the file that is meant is used', () => {
  const [a] = pieces({ from: 12, to: 40 })
  expect(a!.from).toBeCloseTo(12, 6)
})

test('a piece that is as long as its stretch has no seam; one that goes round has', () => {
  const seams = (to: number) =>
    bedSeams(layoutLesson(lessonWith({ to }, {})), bank.analysisOf).filter(({ at }) => at < 20)
  expect(seams(22)).toEqual([])
  const round = seams(9)
  expect(round.length).toBeGreaterThan(0)
  for (const { score } of round) expect(score).toBeGreaterThanOrEqual(0)
})

test("a piece's own clearance holds under it, and the lesson's elsewhere", () => {
  const timeline = layoutLesson(lessonWith({ last: 's0', clearance: 22 }, {}))
  const track = clearanceTrack(timeline, 16, 601)
  expect([track[0], track[150], track[250], track[500]]).toEqual([22, 22, 16, 16])
})

test.each([
  { from: 500, to: null },
  { from: 30, to: 10 },
  { from: 0, to: 0 },
  { from: 39.97, to: 900 },
])('a part that is not in its file (%j) is not laid, and laying it ends', (part) => {
  const lesson = lessonWith(part, { last: 's2' })
  const clips = bedClips(layoutLesson(lesson), [], bank.analysisOf)
  expect(clips.filter((clip) => clip.media === SONG).length).toBeLessThanOrEqual(1)
})

test('what is silent before a piece begins is left out', () => {
  const late = new Float32Array(36 * HOUSE_RATE)
  late.set(musicLike(28, -12), 8 * HOUSE_RATE)
  const own = soundBank({ [SONG]: [late], [TAKE]: [new Float32Array(HOUSE_RATE)] })
  const lesson = { ...lessonOver([0, 10, 20], false), bedCues: [newBed('a', SONG, 's0')] }
  const [first] = bedClips(layoutLesson(lesson), [], own.analysisOf)
  expect(first!.at).toBe(0)
  // A breath of it stays.
  expect(first!.from / HOUSE_RATE).toBeCloseTo(7.7, 5)
})

import { takeSpeech } from '@/core/measure/takeVoice'
import type { Lesson, Passage } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { applyEdit } from '@/core/lesson/edits'
import type { RecordingDetails } from '@/core/messages/arrival'
import type { TimedWord } from '@/core/messages/job'
import { cleaningOf, isOutdated, isStandIn, newTake, takesFromPassages } from '@/core/lesson/takes'
import { readLesson } from '@/core/lesson/upgrade'
import { analyse, speechLike, TAKE } from '@/core/testing/lessons'
import { noise, tones } from '@/core/testing/signals'
import { HOUSE_RATE, toFactor } from '@/core/units'
import { USUAL_CLEAN_UP } from './cleanUp/settings'
import { compPassages, scriptPhrases, type AlignedTake } from './lay/comp'
import { createInputMeter } from './inputLevel'
import { layRecording } from './lay/layRecording'
import { cutTime, pauseCuts } from './lay/pauses'
import { anchorsByPauses, anchorsByWords } from './lay/relay'

const OTHER = '8'.repeat(64)
const serial = () => {
  let count = 0
  return () => `n${count++}`
}
const passage = (id: string, from: number, to: number, media = TAKE): Passage => ({ id, media, from, to, pause: 0 })

function lessonWith(passages: Passage[][], script = ''): Lesson {
  const steps = passages.map((own, i) => ({
    ...newStep(`s${i}`, `Step ${i + 1}`, { kind: 'card' as const, lines: ['x'] }),
    script,
    passages: own,
  }))
  return { ...emptyLesson('x'), steps, takes: takesFromPassages(steps, 'brought-in', serial()) }
}

describe('parts of takes', () => {
  const words = (starts: number[]): TimedWord[] => {
    const texts = ['Look', 'up', 'now,', 'then', 'go', 'on.', 'Stop.']
    let at = 0
    return texts.map((text, i) => {
      const from = at
      at += text.length + 1
      const sentence = i === 6 ? 1 : 0
      return { text, from, to: from + text.length, sentence, start: starts[i]!, end: starts[i]! + 0.3, confidence: 1 }
    })
  }
  const script = 'Look up now, then go on. Stop.'
  const first: AlignedTake = { media: TAKE, from: 0, to: 10, words: words([1, 1.4, 1.8, 3, 3.4, 3.8, 6]) }
  const second: AlignedTake = { media: OTHER, from: 0, to: 20, words: words([11, 11.4, 11.8, 12.1, 12.5, 12.9, 15]) }

  test('a script falls into clauses and sentences', () => {
    expect(scriptPhrases(script).map(({ text }) => text)).toEqual(['Look up now,', 'then go on.', 'Stop.'])
    expect(scriptPhrases('Oh, no. Yes.').map(({ text }) => text)).toEqual(['Oh, no.', 'Yes.'])
  })

  test('each part comes from its take, cut in the middle of the pauses', () => {
    const parts = compPassages(scriptPhrases(script), [0, 1, 1], [first, second], serial())
    expect(parts.map(({ media }) => media)).toEqual([TAKE, OTHER])
    // Before the first word a quarter of a second; the pause of 0.9 s after "now," leaves its share.
    expect(parts[0]!.from).toBeCloseTo(0.75, 6)
    expect(parts[0]!.to).toBeCloseTo(2.1 + 0.25, 6)
    // In the second take "then" follows "now," at once: the cut lies between the words.
    expect(parts[1]!.from).toBeCloseTo(12.1, 6)
    expect(parts[1]!.to).toBeCloseTo(15.3 + 0.25, 6)
  })

  test('phrases can be left out', () => {
    const parts = compPassages(scriptPhrases(script), [0, null, 0], [first], serial())
    expect(parts.map(({ from }) => from)).toEqual([0.75, 5.75])
  })
})

describe('a recording in its lesson', () => {
  const speech = [
    { start: 1, end: 3 },
    { start: 4, end: 6 },
    { start: 7, end: 9 },
  ]
  const voice = { media: OTHER, length: 10, speech }
  const details = (part: Partial<RecordingDetails>): RecordingDetails => ({
    marks: [{ step: 's0', at: 0 }],
    punch: null,
    room: null,
    trimmed: true,
    rate: 48_000,
    voiceAt: null,
    extension: null,
    ...part,
  })

  test('one step: a take of it, trimmed to its words, heard from now on', () => {
    const edit = layRecording(lessonWith([[passage('p', 0, 5)]]), details({}), voice, serial())!
    expect(edit.takes).toMatchObject([
      { media: OTHER, step: 's0', from: 0.7, to: 9.3, name: 'Take 2', kind: 'recorded' },
    ])
    expect(edit.heard).toMatchObject([{ step: 's0', passages: [{ media: OTHER, from: 0.7, to: 9.3 }] }])
  })

  test('a punch keeps what was said before its place', () => {
    const lesson = lessonWith([[passage('p', 0, 5), passage('q', 5, 8)]])
    const edit = layRecording(lesson, details({ punch: { passage: 'q', at: 6 } }), voice, serial())!
    expect(edit.heard[0]!.passages.map(({ media, from, to }) => [media, from, to])).toEqual([
      [TAKE, 0, 5],
      [TAKE, 5, 6],
      [OTHER, 0.7, 9.3],
    ])
  })

  test('walking through: nothing between the breaks is lost, and each goes to the pause near its key press', () => {
    const marks = [
      { step: 's0', at: 0 },
      { step: 's1', at: 4.3 },
      { step: 's2', at: 6.2 },
    ]
    const edit = layRecording(lessonWith([[], [], []]), details({ marks, trimmed: false }), voice, serial())!
    const parts = edit.heard.map(({ passages }) => passages[0]!)
    expect(parts.map(({ from, to }) => [from, to])).toEqual([
      [0.7, 3.75],
      [3.75, 6.75],
      [6.75, 9.3],
    ])
  })

  test('step after step: each take is trimmed to its own words', () => {
    const marks = [
      { step: 's0', at: 0 },
      { step: 's1', at: 3.5 },
    ]
    const edit = layRecording(lessonWith([[], []]), details({ marks }), voice, serial())!
    expect(edit.takes.map(({ from, to }) => [from, to])).toEqual([
      [0.7, 3.3],
      [3.75, 9.3],
    ])
  })

  test('where the step has gone in the meantime, nothing is laid', () => {
    expect(layRecording(lessonWith([[]]), details({ marks: [{ step: 'gone', at: 0 }] }), voice, serial())).toBeNull()
  })
})

describe('dead air', () => {
  const sound = speechLike([
    [null, 0.6],
    [-12, 1],
    [null, 2],
    [-12, 1],
    [null, 0.5],
    [-12, 1],
    [null, 0.3],
  ])
  const room = noise(sound.length, 7)
  sound.forEach((value, i) => (sound[i] = value + room[i]! * toFactor(-62)))
  const analysis = analyse([sound])
  const factsOf = () => ({ analysis, speech: takeSpeech(analysis) })
  const lesson = lessonWith([[passage('p', 0, 6.4)]])

  test('only the pause that is too long is cut, down to what is kept, never into words', () => {
    const cuts = pauseCuts(lesson, { longest: 1.2, kept: 0.7 }, factsOf, serial())
    expect(cuts).toHaveLength(1)
    expect(cutTime(cuts)).toBeGreaterThan(0.9)
    expect(cutTime(cuts)).toBeLessThan(1.31)
    const { from, to } = cuts[0]!
    expect(from).toBeGreaterThan(1.6)
    expect(to).toBeLessThan(3.6)
  })

  test('the cuts are one edit', () => {
    const cuts = pauseCuts(lesson, { longest: 0.4, kept: 0.3 }, factsOf, serial())
    expect(cuts.length).toBeGreaterThan(1)
    const shorter = applyEdit(lesson, { name: 'shortenPauses', cuts })
    const length = (one: Lesson) => one.steps[0]!.passages.reduce((sum, { from, to }) => sum + to - from, 0)
    expect(length(lesson) - length(shorter)).toBeCloseTo(cutTime(cuts), 6)
  })
})

describe('edits of takes', () => {
  test('a pause put in splits the passage; at its start it only waits', () => {
    const lesson = lessonWith([[passage('p', 1, 5)]])
    const edit = { name: 'insertPause', passage: 'p', length: 2, newPassage: 'q' } as const
    expect(applyEdit(lesson, { ...edit, at: 3 }).steps[0]!.passages).toEqual([
      passage('p', 1, 3),
      { ...passage('q', 3, 5), pause: 2 },
    ])
    expect(applyEdit(lesson, { ...edit, at: 1 }).steps[0]!.passages).toEqual([{ ...passage('p', 1, 5), pause: 2 }])
  })

  test('removing a take takes what is heard of it; restoring brings the take back', () => {
    const lesson = lessonWith([[passage('p', 0, 3), passage('q', 0, 2, OTHER)]])
    const take = lesson.takes.find(({ media }) => media === OTHER)!
    const removed = applyEdit(lesson, { name: 'removeTake', take: take.id })
    expect(removed.steps[0]!.passages.map(({ id }) => id)).toEqual(['p'])
    expect(applyEdit(removed, { name: 'restoreTake', take: take.id }).takes).toEqual(lesson.takes)
  })

  test('a replacement of another length keeps every cut at its word', () => {
    const lesson = lessonWith([[passage('p', 1, 3)], [passage('q', 3, 7)]])
    const places: [number, number][] = [
      [1, 2],
      [3, 5],
      [7, 8],
    ]
    const { steps } = applyEdit(lesson, { name: 'replaceVoice', media: TAKE, by: OTHER, places })
    expect(steps.map(({ passages: [one] }) => [one!.media, one!.from, one!.to])).toEqual([
      [OTHER, 2, 5],
      [OTHER, 5, 8],
    ])
  })

  test('clean-up of the lesson and of one take', () => {
    const lesson = lessonWith([[passage('p', 0, 3)], [passage('q', 0, 3, OTHER)]])
    expect(cleaningOf(lesson, TAKE)).toBeNull()
    const cleaned = applyEdit(lesson, { name: 'setCleanUp', media: null, cleanUp: USUAL_CLEAN_UP })
    expect(cleaningOf(cleaned, TAKE)).toEqual({ cleanUp: USUAL_CLEAN_UP, room: null })
    const own = { ...USUAL_CLEAN_UP, noise: { on: true, amount: 0.5 } }
    const both = applyEdit(cleaned, { name: 'setCleanUp', media: OTHER, cleanUp: own })
    expect(cleaningOf(both, OTHER)!.cleanUp.noise.amount).toBe(0.5)
    expect(cleaningOf(both, TAKE)!.cleanUp.noise.amount).toBe(0.95)
  })

  test('stand-ins and changed scripts are known', () => {
    const lesson = lessonWith([[passage('p', 0, 3)]], 'Look up.')
    const step = lesson.steps[0]!
    expect([isStandIn(lesson, step), isOutdated(lesson, step)]).toEqual([false, false])
    const read = newTake('t', OTHER, step, { from: 0, to: 2 }, 'read')
    const heard = [{ step: 's0', passages: [passage('r', 0, 2, OTHER)] }]
    const standing = applyEdit(lesson, { name: 'addTakes', takes: [read], heard })
    expect(isStandIn(standing, standing.steps[0]!)).toBe(true)
    const changed = applyEdit(standing, { name: 'setScript', step: 's0', script: 'Look down.' })
    expect(isOutdated(changed, changed.steps[0]!)).toBe(true)
  })
})

test('a document of format 1 is read: what was said becomes takes', () => {
  const { takes: _t, cleanUp: _c, reading: _r, language: _l, ...rest } = lessonWith([[passage('p', 1, 3)]], 'Words.')
  const steps = rest.steps.map((step) => ({ ...step, passages: step.passages.map(({ pause: _p, ...old }) => old) }))
  const lesson = readLesson({ ...rest, format: 1, steps })
  expect(lesson.takes).toMatchObject([
    { media: TAKE, step: 's0', from: 1, to: 3, script: 'Words.', kind: 'brought-in' },
  ])
  expect(lesson.steps[0]!.passages[0]!.pause).toBe(0)
  expect(() => readLesson({ format: 4 })).toThrow()
})

describe('laid again', () => {
  test('by its words', () => {
    const word = (from: number, start: number): TimedWord => ({
      text: 'x',
      from,
      to: from + 1,
      sentence: 0,
      start,
      end: start + 0.5,
      confidence: 1,
    })
    const before = [word(0, 1), word(2, 2), word(4, 3)]
    const after = [word(0, 5), word(4, 9)]
    expect(anchorsByWords(before, after)).toEqual([
      [1, 5],
      [3, 9],
      [3.5, 9.5],
    ])
  })

  test('by its pauses: a phrase that is gone has no partner', () => {
    const at = (start: number, length: number) => ({ start, end: start + length })
    const pairs = anchorsByPauses([at(0, 2), at(3, 5), at(9, 1)], [at(10, 2), at(13, 1)])
    expect(pairs).toEqual([
      [0, 10],
      [2, 12],
      [9, 13],
      [10, 14],
    ])
  })
})

describe('the level of a microphone', () => {
  const verdictOn = (samples: Float32Array) => {
    const meter = createInputMeter(HOUSE_RATE)
    for (let at = 0; at < samples.length; at += 2400) meter.push(samples.subarray(at, at + 2400))
    return meter.read()
  }

  test.each([
    [-50, 'too quiet'],
    [-24, 'good'],
    [-8, 'too loud'],
  ])('a tone of %d dB is %s', (level, verdict) => {
    expect(verdictOn(tones([[level, 2]])).verdict).toBe(verdict)
  })

  test('silence, and clipping counted by its stretches', () => {
    expect(verdictOn(new Float32Array(HOUSE_RATE)).verdict).toBe('silent')
    const over = tones([[6, 1]], 100).map((value) => Math.max(-1, Math.min(1, value)))
    const level = verdictOn(over)
    expect(level.verdict).toBe('clipped')
    // A tone of 100 Hz at twice full scale clips twice in each of its periods.
    expect(level.clipped).toBeGreaterThanOrEqual(199)
    expect(level.clipped).toBeLessThanOrEqual(201)
    expect(level.now).toBeCloseTo(verdictOn(over.map((value) => value * toFactor(-12))).now + 12, 3)
  })
})

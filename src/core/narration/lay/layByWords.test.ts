import { newStep } from '@/core/lesson/newParts'
import type { JobResult } from '@/core/messages/job'
import { TAKE } from '@/core/testing/lessons'
import { jointScript, layByWords } from './layByWords'

const step = (id: string, script: string) => ({ ...newStep(id, id, { kind: 'card' as const, lines: [id] }), script })
const steps = [step('a', 'One two. Three four.'), step('b', 'Five six.'), step('c', 'Seven eight.')]
const { text, starts } = jointScript(steps)

/** Sentences of two words with their starts in the take; each word lasts half a second. */
function found(times: (number | null)[], extra: JobResult<'align'>['extra'] = []): JobResult<'align'> {
  const all = [...text.matchAll(/\S+/g)]
  const words = times.flatMap((start, sentence) =>
    start === null
      ? []
      : [0, 1].map((k) => {
          const { 0: word, index } = all[sentence * 2 + k]!
          const at = start + k * 0.5
          return { text: word, from: index, to: index + word.length, sentence, start: at, end: at + 0.5, confidence: 1 }
        }),
  )
  return { words, skipped: times.flatMap((start, i) => (start === null ? [i] : [])), extra }
}
let serial = 0
const lay = (result: JobResult<'align'>) =>
  layByWords(steps, { media: TAKE, length: 30 }, result, 'brought-in', () => `id${serial++}`)
const parts = (result: JobResult<'align'>) =>
  lay(result).heard.map(({ step: id, passages }) => [id, ...passages.map(({ from, to }) => [from, to])])

test('the joint script tells where each step begins', () => {
  expect(starts.map((start) => text.slice(start, start + 4))).toEqual(['One ', 'Five', 'Seve'])
})

test('each step gets its words, parted in the pauses, and nothing between them is lost', () => {
  expect(parts(found([1, 2.4, 5, 9]))).toEqual([
    ['a', [0.75, 4.75]],
    ['b', [4.75, 8.75]],
    ['c', [8.75, 10.3]],
  ])
})

test('an earlier try lies hidden, the last one is heard', () => {
  const retake = { kind: 'retake' as const, start: 2.5, end: 3.4, sentence: 1 }
  expect(parts(found([1, 4.4, 7, 9], [retake]))[0]).toEqual(['a', [0.75, 2.3], [4.15, expect.closeTo(6.75, 9)]])
  expect(lay(found([1, 4.4, 7, 9], [retake]))).toMatchObject({ retakes: 1, adLibs: 0, silent: [] })
})

test('a sentence said again after the next one comes from its later place', () => {
  // Said: two, three, then two again, then four.
  expect(parts(found([1, 6, 4, 9]))).toEqual([
    ['a', [0.75, 2.3], [5.75, 7.3]],
    ['b', [3.75, 5.3]],
    ['c', [8.75, 10.3]],
  ])
})

test('what is said before the first word, after the last one and beside a try is heard', () => {
  const extra: JobResult<'align'>['extra'] = [
    { kind: 'ad-lib', start: 0.5, end: 3 },
    { kind: 'retake', start: 6, end: 6.9, sentence: 1 },
    { kind: 'ad-lib', start: 7.4, end: 9 },
    { kind: 'ad-lib', start: 20, end: 29 },
  ]
  expect(parts(found([4, 10, 12, 16], extra))).toEqual([
    ['a', [0.25, 5.3], [7.15, 11.75]],
    ['b', [11.75, 15.75]],
    ['c', [15.75, 29.3]],
  ])
})

test('a step that is said in other words gets these', () => {
  const result = found([1, 2.4, null, 9], [{ kind: 'ad-lib', start: 5, end: 7 }])
  expect(lay(result)).toMatchObject({ silent: [], otherwise: ['b'] })
  expect(parts(result)).toEqual([
    ['a', [0.75, 4.75]],
    ['b', [4.75, 8.75]],
    ['c', [8.75, 10.3]],
  ])
})

test('what is said besides the script stays, and a step nobody speaks to is told', () => {
  const laid = lay(found([1, 6.4, 8, null], [{ kind: 'ad-lib', start: 3, end: 4 }]))
  expect(laid).toMatchObject({ adLibs: 1, silent: ['c'] })
  expect(laid.heard.map(({ passages }) => passages.map(({ from, to }) => [from, to]))).toEqual([
    [[0.75, 7.75]],
    [[7.75, 9.3]],
  ])
})

import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { writeWav } from '@/core/formats/wav'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { newTake } from '@/core/lesson/takes'
import { DEFAULT_READING } from '@/core/narration/speechVoice'
import { HOUSE_RATE } from '@/core/units'
import { importMedia } from '../import/import'
import { openStore, type MediaStore } from '../store/store'
import { readAloud } from './reading'
import { withMarksSettled } from './settleLesson'
import { folderObjects } from '../store/folderObjects'
import { openAssets, type Assets } from '../store/assets'

const SCRIPT = 'Take off the springs first. Then turn to the bow line and wait for the gap.'

let folder: string
let store: MediaStore
let assets: Assets
let lesson: Lesson
let saidAt: number

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-settle-'))
  const objects = folderObjects(folder)
  store = openStore(objects)
  assets = openAssets(objects)
  const { samples, words } = await readAloud(SCRIPT, DEFAULT_READING, [], assets)
  await writeFile(join(folder, 'said.wav'), writeWav([samples], HOUSE_RATE))
  const { hash, length } = await importMedia(store, join(folder, 'said.wav'), 'said.wav')
  const character = SCRIPT.indexOf('wait')
  saidAt = words.find(({ from }) => from === character)!.start
  const step = {
    ...newStep('s', 'Springs', { kind: 'card', lines: ['Springs'] }),
    script: SCRIPT,
    passages: [{ id: 'p', media: hash, from: 0, to: length!, pause: 0 }],
  }
  // As it is guessed when a new voice has come: as far into the take as into the script.
  const place = { media: hash, at: 0.3 * length! }
  lesson = {
    ...emptyLesson('Leaving a berth'),
    steps: [step],
    takes: [newTake('t', hash, step, { from: 0, to: length! }, 'recorded')],
    marks: [{ id: 'k', step: 's', word: { character, side: 'before' }, place, guessed: 'place' }],
  }
})
afterAll(() => rm(folder, { recursive: true, force: true }))

test('a mark whose place was guessed is put where its word is said, by looking for the words of its take', async () => {
  const [mark] = (await withMarksSettled(lesson, store, assets)).marks
  expect(mark).toMatchObject({ guessed: null })
  expect(Math.abs(mark!.place!.at - saidAt)).toBeLessThan(0.1)
})

test('where nothing is guessed, nothing is looked for', async () => {
  const known = { ...lesson, marks: lesson.marks.map((mark) => ({ ...mark, guessed: null })) }
  expect(await withMarksSettled(known, store, assets)).toBe(known)
})

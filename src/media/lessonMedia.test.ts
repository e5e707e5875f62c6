import type { Lesson } from '@/core/lesson/document'
import { newRecording, newStep, newStill } from '@/core/lesson/newParts'
import type { MediaInfo } from '@/core/messages/media'
import { DECK, lessonOver, SONG, TAKE } from '@/core/testing/lessons'
import { assertCanBeMade } from './lessonMedia'
import type { MediaStore } from './store/store'

const infos: Record<string, Partial<MediaInfo>> = {
  [TAKE]: { length: 9 },
  [SONG]: { length: 60 },
  [DECK]: { pages: ['', ''] },
}
const store = {
  has: async (hash: string) => hash in infos,
  info: async (hash: string) => ({ pages: [], ...infos[hash], hash }) as unknown as MediaInfo,
} as unknown as MediaStore
const made = (lesson: Lesson) => assertCanBeMade(lesson, store).catch((error: Error) => error.message)

test('a lesson whose files, pages and recordings are there can be made', async () => {
  expect(await made(lessonOver([0, 4, 8]))).toBeUndefined()
})

test('what is in the way is told apart, and where it is', async () => {
  const lesson = lessonOver([0, 4, 8])
  expect(await made({ ...lesson, bedCues: [{ ...lesson.bedCues[0]!, media: 'f'.repeat(64) }] })).toMatch(
    /These files are missing: a take/,
  )
  const beyond = newStep('x', '', newStill(DECK, 99))
  expect(await made({ ...lesson, steps: [...lesson.steps, beyond] })).toMatch(
    /Step 3: it shows page 99 of a file that has 2/,
  )
  const cutOut = newStep('x', '', { ...newRecording(TAKE, 9), cuts: [{ from: 0, to: 9 }] })
  expect(await made({ ...lesson, steps: [cutOut, ...lesson.steps] })).toMatch(
    /Step 1: everything of its recording is cut out/,
  )
})

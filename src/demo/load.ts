import { copyFile, mkdir, readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { createCourse } from '@/db/courses'
import { createLesson, isTaken } from '@/db/lessons'
import { pool } from '@/db/client'
import { assetsNoted } from '@/jobs/noteAsset'
import { assetStore, mediaStore } from '@/jobs/places'
import { readArchive } from '@/media/archive'
import { keepFoundWords } from '@/media/speech/lessonWords'
import { openAssets } from '@/media/store/assets'
import { replaceWhole } from '@/media/store/files'
import { folderObjects } from '@/media/store/folderObjects'
import { CROSSING_ARCHIVE, FOUND_FOLDER, LEARN_ARCHIVE, LIGHTS_ARCHIVE, RAW_FOLDER, TIDE_ARCHIVE } from './make'
import { madeDemo } from './made'

/** Puts the demo course into the database, unless it is there, and the raw files into `demo-files/`. */

const COURSES = [
  {
    id: 'coastal',
    title: 'Coastal Skipper Basics',
    lessons: { 'tide-table': TIDE_ARCHIVE, 'crossing-the-bar': CROSSING_ARCHIVE, 'harbour-lights': LIGHTS_ARCHIVE },
  },
  { id: 'learn', title: 'Learn by doing', lessons: { 'learn-by-doing': LEARN_ARCHIVE } },
]

const made = await madeDemo()
const found = openAssets(folderObjects(join(made, FOUND_FOLDER)))
for (const course of COURSES) {
  await createCourse(course.title, course.id)
  for (const [id, archive] of Object.entries(course.lessons)) {
    if (await isTaken(id)) continue
    const lesson = await readArchive(join(made, archive), mediaStore())
    await keepFoundWords(lesson, found, assetStore())
    await createLesson(course.id, lesson, id)
  }
}
await mkdir('demo-files', { recursive: true })
for (const name of await readdir(join(made, RAW_FOLDER))) {
  const [raw, shown] = [join(made, RAW_FOLDER, name), join('demo-files', name)]
  // One that is being brought in somewhere else must stay as it is.
  if (!(await areSame(raw, shown))) await replaceWhole(shown, (draft) => copyFile(raw, draft))
}
await assetsNoted()
await pool().end()

async function areSame(one: string, other: string): Promise<boolean> {
  const [a, b] = await Promise.all([readFile(one), readFile(other).catch(() => null)])
  return b !== null && a.equals(b)
}

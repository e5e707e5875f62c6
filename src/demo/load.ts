import { createHash } from 'node:crypto'
import { copyFile, mkdir, readdir, readFile, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { createCourse } from '@/db/courses'
import { createLesson, isTaken } from '@/db/lessons'
import { pool } from '@/db/client'
import { mediaStore } from '@/jobs/places'
import { readArchive } from '@/media/archive'
import { dataFolder } from '@/media/settings'
import { replaceWhole } from '@/media/store/files'
import { exists } from '@/media/store/store'
import { CROSSING_ARCHIVE, LEARN_ARCHIVE, LIGHTS_ARCHIVE, makeDemo, RAW_FOLDER, TIDE_ARCHIVE } from './make'

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
for (const course of COURSES) {
  await createCourse(course.title, course.id)
  for (const [id, archive] of Object.entries(course.lessons))
    if (!(await isTaken(id))) await createLesson(course.id, await readArchive(join(made, archive), mediaStore()), id)
}
await mkdir('demo-files', { recursive: true })
for (const name of await readdir(join(made, RAW_FOLDER)))
  await replaceWhole(join('demo-files', name), (draft) => copyFile(join(made, RAW_FOLDER, name), draft))
await pool().end()

/** Made once for each state of the demo's own sources, and kept. */
async function madeDemo(): Promise<string> {
  const folder = join(dataFolder(), 'demo', await versionOfSources())
  if (await exists(folder)) return folder
  console.log('Making the demo course: drawing, speaking, composing, filming (about a minute)')
  const draft = `${folder}.draft`
  await rm(draft, { recursive: true, force: true })
  await mkdir(draft, { recursive: true })
  await makeDemo(draft)
  await rename(draft, folder)
  return folder
}

async function versionOfSources(): Promise<string> {
  const hash = createHash('sha256')
  const own = (await readdir('src/demo')).sort().map((name) => join('src/demo', name))
  for (const path of [...own, 'src/core/lesson/document.ts']) hash.update(await readFile(path))
  return hash.digest('hex').slice(0, 12)
}

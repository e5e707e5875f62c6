import { createHash } from 'node:crypto'
import { mkdir, readdir, readFile, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { JOB_EDITIONS } from '@/core/messages/jobInput'
import { dataFolder } from '@/media/settings'
import { exists } from '@/media/store/store'
import { makeDemo } from './make'

/** The folder of the demo's archives and raw files: made once for each state of the demo's own sources, and kept. */
export async function madeDemo(): Promise<string> {
  const folder = join(process.env.YARN_STEP_DEMO ?? join(dataFolder(), 'demo'), await versionOfSources())
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
  // Words found by another edition would not be looked at.
  hash.update(JSON.stringify(JOB_EDITIONS.align))
  return hash.digest('hex').slice(0, 12)
}

import { mkdir, mkdtemp, readdir, rm, stat } from 'node:fs/promises'
import { homedir, tmpdir } from 'node:os'
import { join } from 'node:path'
import { IMPORT_EDITION } from '@/media/import/import'
import { bytesIn } from '@/media/store/files'

/**
 * Where commands keep what they have imported and found, by the content of files, so that the next one need not do it again.
 * What was kept first goes where it becomes too much.
 */

const MOST_BYTES = Number(process.env.YARN_STEP_COMMAND_CACHE_BYTES || 20 * 1024 ** 3)

/** Does its work in the cache; in a folder that goes afterwards where there is no place for one. */
export async function withCache<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await cacheFolder()
  if (folder) {
    try {
      return await work(folder)
    } finally {
      await prune(folder, MOST_BYTES).catch(() => {})
    }
  }
  const passing = await mkdtemp(join(tmpdir(), 'yarn-step-'))
  try {
    return await work(passing)
  } finally {
    await rm(passing, { recursive: true, force: true })
  }
}

async function cacheFolder(): Promise<string | null> {
  const base =
    process.env.YARN_STEP_COMMAND_CACHE || join(process.env.XDG_CACHE_HOME || join(homedir(), '.cache'), 'yarn-step')
  const folder = join(base, String(IMPORT_EDITION))
  return mkdir(folder, { recursive: true }).then(
    () => folder,
    () => null,
  )
}

/** What is kept there, and may take much room. */
const KINDS = ['media', 'coded', 'mix']

/** Takes out what was kept first, until the rest takes no more than this. */
export async function prune(folder: string, most: number): Promise<void> {
  const kept: { path: string; bytes: number; since: number }[] = []
  for (const kind of KINDS)
    for (const prefix of await readdir(join(folder, kind)).catch(() => []))
      for (const name of await readdir(join(folder, kind, prefix)).catch(() => [])) {
        const path = join(folder, kind, prefix, name)
        const { size, mtimeMs, isFolder } = await stat(path).then((one) => ({ ...one, isFolder: one.isDirectory() }))
        kept.push({ path, bytes: isFolder ? await bytesIn(path) : size, since: mtimeMs })
      }
  let total = kept.reduce((sum, { bytes }) => sum + bytes, 0)
  for (const { path, bytes } of kept.sort((one, other) => one.since - other.since)) {
    if (total <= most) return
    await rm(path, { recursive: true, force: true })
    total -= bytes
  }
}

import { mkdir, mkdtemp, readdir, rm } from 'node:fs/promises'
import { hostname, tmpdir } from 'node:os'
import { join } from 'node:path'

/**
 * Folders and drafts of a process carry its machine and number in their names, so that what a killed process left
 * behind is known and can be cleared away.
 */
const PREFIX = 'yarn-step'

export const ownName = (rest = ''): string => `${PREFIX}.${hostname()}.${process.pid}.${rest}`

/** Lends an empty folder for as long as `work` takes. */
export async function withWorkFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  await mkdir(tmpdir(), { recursive: true })
  const folder = await mkdtemp(join(tmpdir(), ownName()))
  try {
    return await work(folder)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** Takes away what processes of this machine that are gone have left in a folder. */
export async function clearAbandoned(folder: string): Promise<void> {
  const names = await readdir(folder).catch(() => [])
  await Promise.all(names.filter(isAbandoned).map((name) => rm(join(folder, name), { recursive: true, force: true })))
}

function isAbandoned(name: string): boolean {
  const beginning = `${PREFIX}.${hostname()}.`
  if (!name.startsWith(beginning)) return false
  const pid = Number(name.slice(beginning.length).split('.')[0])
  return pid !== process.pid && !isRunning(pid)
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

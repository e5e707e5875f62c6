import { randomUUID } from 'node:crypto'
import { copyFile, link, mkdir, open, readdir, rm, stat } from 'node:fs/promises'
import { dirname, join, relative, resolve } from 'node:path'
import { replaceWhole } from './files'
import { missing, type ObjectStore, type StoredObject } from './objects'
import { ownName } from './workFolder'

const CHUNK = 1 << 18 // bytes

/** Where files are made before they are whole. */
export const DRAFTS = '.drafts'

/** Files in a folder, each under its name. */
export function folderObjects(root: string): ObjectStore {
  const pathOf = (name: string) => pathWithin(root, name)
  return {
    size: (name) => stat(pathOf(name)).then(({ size }) => size, nullIfMissing),
    async open(name, range) {
      const file = await open(pathOf(name)).catch(notThere)
      return file.createReadStream({ highWaterMark: CHUNK, ...(range && { start: range.from, end: range.to - 1 }) })
    },
    async local(name) {
      await stat(pathOf(name)).catch(notThere)
      return pathOf(name)
    },
    put: (name, path) => copyInto(pathOf(name), path),
    remove: (name) => rm(pathOf(name), { force: true }),
    list: (prefix) => filesIn(root, prefix),
    draft: () => draftIn(root),
  }
}

/** Throws where a name would lead out of the folder. */
export function pathWithin(root: string, name: string): string {
  const path = resolve(root, name)
  if (relative(root, path).startsWith('..')) throw missing()
  return path
}

/** A link costs no room; across file systems it has to be a copy. */
export async function copyInto(to: string, from: string): Promise<void> {
  if (resolve(from) === resolve(to)) return
  await mkdir(dirname(to), { recursive: true })
  await replaceWhole(to, (draft) => link(from, draft).catch(() => copyFile(from, draft)))
}

export async function draftIn(root: string): Promise<string> {
  const folder = join(root, DRAFTS, ownName(randomUUID()))
  await mkdir(folder, { recursive: true })
  return folder
}

async function* filesIn(root: string, prefix: string): AsyncGenerator<StoredObject> {
  const entries = await readdir(join(root, dirname(`${prefix}x`)), { recursive: true, withFileTypes: true }).catch(
    (error: NodeJS.ErrnoException) => (error.code === 'ENOENT' ? [] : Promise.reject(error)),
  )
  for (const entry of entries) {
    const path = join(entry.parentPath, entry.name)
    const name = relative(root, path)
    if (!entry.isFile() || !name.startsWith(prefix) || name.split('/').includes(DRAFTS)) continue
    // What goes away meanwhile is not there.
    const found = await stat(path).catch(nullIfMissing)
    if (found) yield { name, bytes: found.size, changed: found.mtime }
  }
}

function nullIfMissing(error: NodeJS.ErrnoException): null {
  if (error.code === 'ENOENT' || error.code === 'ENOTDIR') return null
  throw error
}

function notThere(error: NodeJS.ErrnoException): never {
  throw error.code === 'ENOENT' ? missing(error) : error
}

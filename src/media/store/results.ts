import { createHash, randomUUID } from 'node:crypto'
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { exists } from './store'

/**
 * Results that take long, kept by what they were made of: the same key always means the same result. They are written
 * beside their place and renamed, so that a job that is killed leaves no half file.
 */
export async function keepResult(
  folder: string,
  key: readonly unknown[],
  extension: string,
  make: () => Promise<Buffer>,
): Promise<Buffer> {
  const file = placeOf(folder, key, extension)
  if (await exists(file)) return readFile(file)
  const made = await make()
  await replaceFile(file, (draft) => writeFile(draft, made))
  return made
}

/** The same for many results of one run: `make` is told which are missing, by their place in `keys`. */
export async function keepResults(
  folder: string,
  keys: readonly (readonly unknown[])[],
  extension: string,
  make: (missing: number[], keep: (index: number, bytes: Buffer) => Promise<void>) => Promise<void>,
): Promise<Buffer[]> {
  const files = keys.map((key) => placeOf(folder, key, extension))
  const there = await Promise.all(files.map(exists))
  const missing = files.flatMap((_, i) => (there[i] ? [] : [i]))
  const keep = (i: number, bytes: Buffer) => replaceFile(files[i]!, (draft) => writeFile(draft, bytes))
  if (missing.length > 0) await make(missing, keep)
  return Promise.all(files.map((file) => readFile(file)))
}

/** The same for results that a program writes into a file by itself. Returns the file's path. */
export async function keepFile(
  folder: string,
  key: readonly unknown[],
  extension: string,
  make: (draft: string) => Promise<void>,
): Promise<string> {
  const file = placeOf(folder, key, extension)
  if (!(await exists(file))) await replaceFile(file, make)
  return file
}

function placeOf(folder: string, key: readonly unknown[], extension: string): string {
  const name = createHash('sha256').update(JSON.stringify(key)).digest('hex')
  return join(folder, name.slice(0, 2), `${name}.${extension}`)
}

async function replaceFile(file: string, write: (draft: string) => Promise<void>): Promise<void> {
  await mkdir(dirname(file), { recursive: true })
  const draft = file.replace(/(\.[^.]*)$/, `-${randomUUID()}$1`)
  try {
    await write(draft)
    await rename(draft, file)
  } finally {
    await rm(draft, { force: true })
  }
}

import { readdir, rename, rm, stat, type FileHandle } from 'node:fs/promises'
import { join } from 'node:path'

/**
 * Writes all of `bytes`, at `position` or where the file's last write ended. A single write may take only a part of them
 * (a disk that is nearly full), and says so by a number that is easily overheard; the next one then tells why.
 */
export async function writeWhole(file: FileHandle, bytes: Uint8Array, position: number | null = null): Promise<void> {
  for (let done = 0; done < bytes.length;) {
    const at = position === null ? null : position + done
    done += (await file.write(bytes, done, bytes.length - done, at)).bytesWritten
  }
}

/** Reads until `bytes` is full or the file ends; returns how many were read. */
export async function readWhole(file: FileHandle, bytes: Uint8Array, position: number): Promise<number> {
  let done = 0
  while (done < bytes.length) {
    const { bytesRead } = await file.read(bytes, done, bytes.length - done, position + done)
    if (bytesRead === 0) break
    done += bytesRead
  }
  return done
}

/**
 * Writes a file beside its place and puts it there when it is whole, so that nobody ever finds half of it. Where two write the
 * same at the same time, each has a draft of its own and the later one stays.
 */
export async function replaceWhole(path: string, write: (draft: string) => Promise<void>): Promise<void> {
  const draft = `${path}.${process.pid}-${++drafts}.draft`
  try {
    await write(draft)
    await rename(draft, path)
  } finally {
    await rm(draft, { force: true })
  }
}

let drafts = 0

/** Bytes of all files in a folder. */
export async function bytesIn(folder: string): Promise<number> {
  const files = (await readdir(folder, { recursive: true, withFileTypes: true })).filter((entry) => entry.isFile())
  const sizes = await Promise.all(files.map((entry) => stat(join(entry.parentPath, entry.name)).catch(() => null)))
  return sizes.reduce((sum, found) => sum + (found?.size ?? 0), 0)
}

import type { Readable } from 'node:stream'
import { NotThere } from '@/core/userError'

/**
 * Where files are kept, by name (`media/ab/HASH/sound.f32`): in a folder or in a bucket. A file is there whole or not at
 * all, and does not change while it is there. Nothing else knows where on a disk one lies.
 */
export interface ObjectStore {
  /** Bytes of it; null where it is not there. */
  size(name: string): Promise<number | null>
  /** Bytes `from` to before `to`, or all. Throws NotThere. */
  open(name: string, range?: ByteRange): Promise<Readable>
  /** A file of this machine with its content, only to be read. Throws NotThere. */
  local(name: string): Promise<string>
  /** Keeps a copy of a file of this machine, in place of what has that name; the file itself stays its owner's. */
  put(name: string, path: string): Promise<void>
  remove(name: string): Promise<void>
  /** All whose name begins like this; a whole folder of names, with its slash. */
  list(prefix: string): AsyncGenerator<StoredObject>
  /** An empty folder of this machine from which `put` costs least. Its owner takes it away. */
  draft(): Promise<string>
}

export interface ByteRange {
  from: number
  to: number
}

export interface StoredObject {
  name: string
  bytes: number
  /** When it was put there. */
  changed: Date
}

export const missing = (cause?: unknown): NotThere =>
  new NotThere('A file that is needed for this is missing. Bring it in again.', { cause })

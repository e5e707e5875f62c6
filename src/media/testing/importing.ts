import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { MediaInfo } from '@/core/messages/media'
import { importMedia } from '../import/import'
import { runProgram } from '../process'
import { folderObjects } from '../store/folderObjects'
import { openStore, type MediaStore } from '../store/store'

/** For tests of what comes in: a folder of files and a store, both gone after the test file. */
export interface Importing {
  folder: string
  store: MediaStore
  at(name: string): string
  /** Writes a file and returns its path. */
  put(name: string, bytes: Uint8Array | string): Promise<string>
  take(name: string): Promise<MediaInfo>
  ffmpeg(...args: string[]): Promise<Buffer>
}

/** What is used before the first test begins is not there yet. */
export function importing(): Importing {
  const made = {} as Importing
  beforeAll(async () => {
    made.folder = await mkdtemp(join(tmpdir(), 'yarn-step-import-'))
    made.store = openStore(folderObjects(join(made.folder, 'media')))
  })
  afterAll(() => rm(made.folder, { recursive: true, force: true }))
  made.at = (name) => join(made.folder, name)
  made.put = async (name, bytes) => {
    await writeFile(made.at(name), bytes)
    return made.at(name)
  }
  made.take = (name) => importMedia(made.store, made.at(name), name)
  made.ffmpeg = (...args) => runProgram('ffmpeg', ['-v', 'error', '-y', ...args], { limit: 100, memory: 4e9 })
  return made
}

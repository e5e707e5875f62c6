import { mkdir, rm, writeFile, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { writeWav } from '@/core/formats/wav'
import { noise } from '@/core/testing/signals'
import { importMedia } from '@/media/import/import'
import { isDiskFull } from '@/media/store/disk'
import { runProgram } from '@/media/process'
import { makeVoiceFile, recordedBytes, writePiece } from '@/media/import/recordings'
import { openStore, storeSource } from '@/media/store/store'
import { DRAFTS, folderObjects } from '@/media/store/folderObjects'
import { say } from '@/messages/say'

const SIZE = 24 * 1024 ** 2

/** Fills a small disk while recording and importing. Needs root, to mount it; null where that can't be done. */
export async function fillDisk(folder: string): Promise<{ wrong: string[] } | null> {
  await mkdir(folder, { recursive: true })
  const mounted = await runProgram('mount', ['-t', 'tmpfs', '-o', `size=${SIZE}`, 'tmpfs', folder], { limit: 10 }).then(
    () => true,
    () => false,
  )
  if (!mounted) return null
  const wrong: string[] = []
  const expect = (holds: boolean, what: string) => void (holds || wrong.push(what))
  try {
    await recordUntilFull(join(folder, 'recordings'), expect)
    await importUntilFull(folder, expect)
  } finally {
    await runProgram('umount', [folder], { limit: 10 })
  }
  return { wrong }
}

type Expect = (holds: boolean, what: string) => void

/** What was confirmed is there, to the last sample; after room was made the recording goes on and is whole. */
async function recordUntilFull(folder: string, expect: Expect): Promise<void> {
  const samples = noise(48_000 * 60, 4).map((value) => value * 0.1)
  const bytes = new Uint8Array(samples.buffer)
  const path = join(folder, 'voice.part')
  await mkdir(folder, { recursive: true })
  const filler = join(folder, 'filler')
  await writeFile(filler, new Uint8Array(SIZE - 4.3 * 1024 ** 2))
  let confirmed = 0
  let full: unknown
  for (let at = 0; at < bytes.length && !full; at += 96_000)
    await writePiece(path, at, bytes.subarray(at, at + 96_000)).then(
      (there) => (confirmed = there),
      (error: unknown) => (full = error),
    )
  expect(isDiskFull(full), `a full disk was told as ${String(full)}`)
  expect((await recordedBytes(path)) >= confirmed, 'bytes were confirmed that are not on disk')
  await rm(filler)
  for (let at = confirmed; at < bytes.length; at += 96_000) await writePiece(path, at, bytes.subarray(at, at + 96_000))
  const store = openStore(folderObjects(join(folder, 'store')))
  const wav = join(folder, 'voice.wav')
  const short = samples.subarray(0, 48_000 * 10)
  await writePiece(join(folder, 'short.part'), 0, new Uint8Array(short.buffer, 0, short.byteLength))
  expect((await recordedBytes(path)) === bytes.length, 'the recording is not whole after room was made')
  await rm(path)
  await makeVoiceFile(join(folder, 'short.part'), 48_000, wav)
  const { hash } = await importMedia(store, wav, 'voice.wav')
  const { source, close } = storeSource(store)
  const [kept] = await source(hash, 0, short.length)
  await close()
  expect(
    kept!.every((value, i) => Math.abs(value - short[i]!) < 1e-5),
    'the recording is not what was recorded',
  )
  await rm(folder, { recursive: true })
}

/** An import that finds no room says so, leaves nothing behind, and is done when there is room. */
async function importUntilFull(folder: string, expect: Expect): Promise<void> {
  const store = openStore(folderObjects(join(folder, 'media')))
  const file = join(folder, 'long.wav')
  await writeFile(file, writeWav([noise(48_000 * 30, 8).map((value) => value * 0.1)], 48_000))
  const filler = join(folder, 'filler')
  await writeFile(filler, new Uint8Array(16 * 1024 ** 2))
  const failed: unknown = await importMedia(store, file, 'long.wav').catch((error: unknown) => error)
  expect(
    isDiskFull(failed) || (failed as Error).message === say('server.diskFull'),
    `an import told a full disk as ${String(failed)}`,
  )
  const drafts = await readdir(join(folder, 'media', DRAFTS)).catch(() => [])
  expect(drafts.length === 0, 'a failed import left its draft')
  await rm(filler)
  expect((await importMedia(store, file, 'long.wav')).length === 30, 'the import is not whole after room was made')
}

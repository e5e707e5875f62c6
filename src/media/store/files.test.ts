import { mkdtemp, open, readFile, rm, writeFile, type FileHandle } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { readWav } from '@/core/formats/wav'
import { noise } from '@/core/testing/signals'
import { replaceWhole, writeWhole } from './files'
import { makePictureFile, makeVoiceFile, recordedBytes, writePiece } from '../import/recordings'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-files-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))
const bytesOf = (samples: Float32Array) => new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength)

/** A disk that takes only a part of each write, and then none. */
function stingy(file: FileHandle, room: number): FileHandle {
  return {
    async write(bytes: Uint8Array, offset: number, length: number, position: number | null) {
      if (room === 0) throw Object.assign(new Error('no space left on device'), { code: 'ENOSPC' })
      const some = Math.min(room, Math.ceil(length / 3))
      room -= some
      return file.write(bytes, offset, some, position)
    },
  } as unknown as FileHandle
}

test('a write that takes only a part is gone on with, and a full disk is told', async () => {
  const path = join(folder, 'short')
  const bytes = bytesOf(noise(5000, 1))
  const file = await open(path, 'w')
  await writeWhole(stingy(file, 1e9), bytes, 0)
  await writeWhole(stingy(file, 1e9), bytes, bytes.length)
  await file.close()
  expect(new Uint8Array(await readFile(path))).toEqual(Uint8Array.from([...bytes, ...bytes]))
  const full = await open(path, 'w')
  await expect(writeWhole(stingy(full, 4000), bytes, 0)).rejects.toMatchObject({ code: 'ENOSPC' })
  await full.close()
})

test('a file that could not be written whole leaves what was there before', async () => {
  const path = join(folder, 'kept')
  await writeFile(path, 'before')
  const failing = replaceWhole(path, async (draft) => {
    await writeFile(draft, 'half')
    throw new Error('full')
  })
  await expect(failing).rejects.toThrow('full')
  expect(await readFile(path, 'utf8')).toBe('before')
})

describe('pieces of a recording', () => {
  const samples = noise(12_000, 9).map((value) => value * 0.1)
  const piece = (from: number, to: number) => bytesOf(samples.slice(from, to))

  test('come in order, may come twice, and never leave a hole', async () => {
    const path = join(folder, 'voice.part')
    expect(await writePiece(path, 0, piece(0, 4000))).toBe(16_000)
    // The piece before it was lost: this one is not taken, and where to go on is told.
    expect(await writePiece(path, 32_000, piece(8000, 12_000))).toBe(16_000)
    expect(await writePiece(path, 2e12, piece(0, 10))).toBe(16_000)
    expect(await recordedBytes(path)).toBe(16_000)
    expect(await writePiece(path, 16_000, piece(4000, 8000))).toBe(32_000)
    expect(await writePiece(path, 0, piece(0, 4000))).toBe(32_000)
    expect(await writePiece(path, 32_000, piece(8000, 12_000))).toBe(48_000)
    const out = join(folder, 'voice.wav')
    await makeVoiceFile(path, 48_000, out)
    const { channels } = readWav(await readFile(out))
    expect(channels[0]!.length).toBe(12_000)
    for (let i = 0; i < 12_000; i += 97) expect(channels[0]![i]!).toBeCloseTo(samples[i]!, 5)
    // The pieces stay: the import may fail, and is tried again.
    expect(await recordedBytes(path)).toBe(48_000)
    await makeVoiceFile(path, 48_000, out)
  })

  test('of a picture are its file, and stay too', async () => {
    const path = join(folder, 'picture.part')
    await writePiece(path, 0, piece(0, 100))
    await makePictureFile(path, join(folder, 'picture.webm'))
    await makePictureFile(path, join(folder, 'picture.webm'))
    expect(await recordedBytes(path)).toBe(400)
    expect(await recordedBytes(join(folder, 'picture.webm'))).toBe(400)
  })

  test('of which there are none make no file', async () => {
    await expect(makeVoiceFile(join(folder, 'none.part'), 48_000, join(folder, 'none.wav'))).rejects.toThrow(
      'Nothing was recorded',
    )
  })
})

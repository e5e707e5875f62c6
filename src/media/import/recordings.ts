import { copyFile, link, mkdir, open, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { encodeSamples, writeWavHeader } from '@/core/formats/wav'
import { UserError } from '@/core/userError'
import type { Hertz } from '@/core/units'
import { say } from '@/messages/say'
import { readWhole, replaceWhole, writeWhole } from '../store/files'

/**
 * Recordings arrive in pieces, one after the other, each with its place; a piece that comes twice does no harm. The pieces
 * stay until what was made of them is in the lesson.
 */

const BYTES = 4
const BLOCK = 500_000 * BYTES
/** Far more than a piece of half a second. */
export const LARGEST_PIECE = 64 * 1024 * 1024

export const recordingFile = (folder: string, id: string) => join(folder, `${id}.part`)

/**
 * Returns how many bytes of the recording are on disk without a gap. A piece that would leave a hole is not taken: the
 * number tells where to go on.
 */
export async function writePiece(path: string, offset: number, bytes: Uint8Array): Promise<number> {
  await mkdir(dirname(path), { recursive: true })
  const file = await open(path, 'a')
    .then((made) => made.close())
    .then(() => open(path, 'r+'))
  try {
    const { size } = await file.stat()
    if (offset > size) return size
    await writeWhole(file, bytes, offset)
    await file.datasync()
    return Math.max(size, offset + bytes.length)
  } finally {
    await file.close()
  }
}

export const recordedBytes = (path: string): Promise<number> =>
  stat(path).then(
    ({ size }) => size,
    () => 0,
  )

/** Makes a WAV file (24 bit, mono) of a recorded voice. */
export async function makeVoiceFile(path: string, rate: Hertz, out: string): Promise<void> {
  const bytes = await recordedBytes(path)
  const frames = Math.floor(bytes / BYTES)
  if (frames === 0) throw new UserError(say('imports.nothingWasRecordedCheck'))
  await mkdir(dirname(out), { recursive: true })
  await replaceWhole(out, async (draft) => {
    const [input, output] = [await open(path, 'r'), await open(draft, 'w')]
    try {
      await writeWhole(output, writeWavHeader(1, rate, frames))
      for (let at = 0; at < frames * BYTES; at += BLOCK) {
        const samples = new Float32Array(Math.min(BLOCK, frames * BYTES - at) / BYTES)
        await readWhole(input, new Uint8Array(samples.buffer), at)
        await writeWhole(output, encodeSamples([samples]))
      }
      await output.sync()
    } finally {
      await input.close()
      await output.close()
    }
  })
}

/** A recorded picture is a file already. */
export async function makePictureFile(path: string, out: string): Promise<void> {
  if ((await recordedBytes(path)) === 0) throw new UserError(say('imports.nothingWasRecordedRecord'))
  await mkdir(dirname(out), { recursive: true })
  await replaceWhole(out, (draft) => link(path, draft).catch(() => copyFile(path, draft)))
}

import { mkdir, open, rename, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { encodeSamples, writeWavHeader } from '@/core/formats/wav'
import { UserError } from '@/core/userError'
import type { Hertz } from '@/core/units'

/** Recordings arrive in pieces, each with its place; a piece that comes twice does no harm. */

const BYTES = 4
const BLOCK = 500_000 * BYTES
/** Far more than a piece of half a second. */
const LARGEST_PIECE = 64 * 1024 * 1024

export const recordingFile = (folder: string, id: string) => join(folder, `${id}.part`)

export async function writePiece(path: string, offset: number, bytes: Uint8Array): Promise<void> {
  if (bytes.length > LARGEST_PIECE) throw new UserError('This piece of a recording is too large.')
  await mkdir(dirname(path), { recursive: true })
  const file = await open(path, 'a')
    .then((made) => made.close())
    .then(() => open(path, 'r+'))
  try {
    await file.write(bytes, 0, bytes.length, offset)
    await file.datasync()
  } finally {
    await file.close()
  }
}

export const recordedBytes = (path: string): Promise<number> =>
  stat(path).then(
    ({ size }) => size,
    () => 0,
  )

/** Makes a WAV file (24 bit, mono) of a recorded voice and takes the pieces away. */
export async function finishVoice(path: string, rate: Hertz, out: string): Promise<void> {
  const bytes = await recordedBytes(path)
  const frames = Math.floor(bytes / BYTES)
  if (frames === 0) throw new UserError('Nothing was recorded. Check the microphone and record again.')
  const [input, output] = [await open(path, 'r'), await open(out, 'w')]
  try {
    await output.write(writeWavHeader(1, rate, frames))
    for (let at = 0; at < frames * BYTES; at += BLOCK) {
      const samples = new Float32Array(Math.min(BLOCK, frames * BYTES - at) / BYTES)
      await input.read(new Uint8Array(samples.buffer), 0, samples.byteLength, at)
      await output.write(encodeSamples([samples]))
    }
  } finally {
    await input.close()
    await output.close()
  }
  await rm(path, { force: true })
}

/** A recorded picture is a file already. */
export async function finishPicture(path: string, out: string): Promise<void> {
  if ((await recordedBytes(path)) === 0) throw new UserError('Nothing was recorded. Record again.')
  await rename(path, out)
}

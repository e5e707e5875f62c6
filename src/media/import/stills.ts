import { rename } from 'node:fs/promises'
import { join } from 'node:path'
import sharp from 'sharp'
import { UserError } from '@/core/userError'
import { DISK_FULL, isDiskFull } from '../store/disk'
import { PARTS } from '../store/store'

/** Size of every finished picture. */
export const PICTURE_WIDTH = 1920
export const PICTURE_HEIGHT = 1080
/** What stands around a picture of other proportions. */
const GROUND = '#ffffff'
const THUMBNAIL_WIDTH = 320
const MOST_PIXELS = 100e6

/** Makes the page of a picture file. Of one that moves the first picture is used, and that is said. */
export async function importStill(
  path: string,
  name: string,
  folder: string,
): Promise<{ pages: string[]; note: string | null }> {
  const {
    width = 0,
    height = 0,
    pages = 1,
  } = await readable(name, () => sharp(path, { limitInputPixels: false }).metadata())
  if (width * height > MOST_PIXELS) {
    throw new UserError(
      `This picture is too large: ${name} has ${width} x ${height} pixels. Save it with at most 10,000 x 10,000; a video shows ${PICTURE_WIDTH} x ${PICTURE_HEIGHT}.`,
    )
  }
  await readable(name, () => makePage(path, folder, 1))
  const moves = 'This picture moves, and only its first moment is shown. Save it as MP4 to have it move.'
  return { pages: [''], note: pages > 1 ? moves : null }
}

/** The picture as it is shown and filmed, and its thumbnail. */
export async function makePage(source: string | Buffer, folder: string, page: number): Promise<void> {
  const draft = join(folder, `draft-${page}.png`)
  await sharp(source, { limitInputPixels: MOST_PIXELS })
    .rotate()
    .flatten({ background: GROUND })
    .resize(PICTURE_WIDTH, PICTURE_HEIGHT, { fit: 'contain', background: GROUND })
    .toColourspace('srgb')
    .png({ compressionLevel: 3 })
    .toFile(draft)
  await sharp(draft)
    .resize(THUMBNAIL_WIDTH)
    .webp({ quality: 82 })
    .toFile(join(folder, PARTS.thumbnail(page)))
  await rename(draft, join(folder, PARTS.page(page)))
}

async function readable<T>(name: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (isDiskFull(error)) throw new UserError(DISK_FULL, { cause: error })
    throw new UserError(`This picture is damaged or incomplete: ${name}. Save it again, then bring it in.`, {
      cause: error,
    })
  }
}

import { FRAME } from '@/core/picture/frame'
import { readFile, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import sharp, { type Sharp } from 'sharp'
import { UserError } from '@/core/userError'
import { DISK_FULL, isDiskFull } from '../store/disk'
import { inputOf, orDamaged } from '../ffmpeg'
import { CODING_MEMORY, runProgram } from '../process'
import { PARTS } from '../store/store'

/** What stands around a picture of other proportions. */
const GROUND = '#ffffff'
const DARK_GROUND = '#161d29'
/** Of 255: what is lighter can't be read on white. */
const LIGHT = 165
const THUMBNAIL_WIDTH = 320
const MOST_PIXELS = 100e6

/** Makes the page of a picture file. Of one that moves the first picture is used, and that is said. */
export async function importStill(
  path: string,
  extension: string,
  name: string,
  folder: string,
): Promise<{ pages: string[]; note: string | null }> {
  const source = await sourceOf(path, extension, name, folder)
  const { width = 0, height = 0, pages = 1 } = await readable(name, () => source().metadata())
  if (width * height > MOST_PIXELS) {
    throw new UserError(
      `This picture is too large: ${name} has ${width} x ${height} pixels. Save it with at most 10,000 x 10,000; a video shows ${FRAME.width} x ${FRAME.height}.`,
    )
  }
  await readable(name, () => makePage(source(), folder, 1))
  const moves = 'This picture moves, and only its first moment is shown. Save it as MP4 to have it move.'
  return { pages: [''], note: pages > 1 && extension !== 'tif' && extension !== 'heic' ? moves : null }
}

/** A picture file as it can be read; what the library can't read is turned into PNG by another one. */
async function sourceOf(path: string, extension: string, name: string, folder: string): Promise<() => Sharp> {
  const options = { limitInputPixels: false }
  if (extension === 'svg') return svgSource(path, name)
  if (extension !== 'bmp' && extension !== 'heic') return () => sharp(path, options)
  const png = join(folder, 'turned.png')
  const [program, args]: [string, string[]] =
    extension === 'bmp'
      ? ['ffmpeg', ['-v', 'error', ...inputOf(path, 'bmp_pipe'), '-frames:v', '1', png]]
      : ['heif-convert', ['-q', '100', path, png]]
  await orDamaged(name, () => runProgram(program, args, { limit: 60, memory: CODING_MEMORY }))
  const bytes = await readFile(png)
  await rm(png)
  return () => sharp(bytes, options)
}

const MOST_SVG = 20e6 // bytes
/** Drawn so large that it is sharp when it fills the frame. */
const SVG_SIZE = FRAME.width

/**
 * A drawing is read from memory: it has no place of its own, so that what it names in files or at addresses is not there
 * for it.
 */
async function svgSource(path: string, name: string): Promise<() => Sharp> {
  const bytes = await readFile(path)
  if (bytes.length > MOST_SVG) throw new UserError(`This drawing is too large: ${name}. Save it as PNG.`)
  const { width = 1, density = 72 } = await readable(name, () => sharp(bytes, { limitInputPixels: false }).metadata())
  const sharpEnough = Math.min(2400, Math.max(1, (density * SVG_SIZE) / width))
  return () => sharp(bytes, { density: sharpEnough, limitInputPixels: MOST_PIXELS })
}

/** A picture that was made here. */
export const pictureIn = (source: string | Buffer): Sharp => sharp(source, { limitInputPixels: MOST_PIXELS })

/** The picture as it is shown and filmed, and its thumbnail. */
export async function makePage(picture: Sharp, folder: string, page: number): Promise<void> {
  const draft = join(folder, `draft-${page}.png`)
  const ground = await groundFor(picture.clone())
  await picture
    .rotate()
    .flatten({ background: ground })
    .resize(FRAME.width, FRAME.height, { fit: 'contain', background: ground })
    .toColourspace('srgb')
    .png({ compressionLevel: 3 })
    .toFile(draft)
  await sharp(draft)
    .resize(THUMBNAIL_WIDTH)
    .webp({ quality: 82 })
    .toFile(join(folder, PARTS.thumbnail(page)))
  await rename(draft, join(folder, PARTS.page(page)))
}

/** What is drawn light on nothing stands on a dark ground, everything else on white. */
async function groundFor(picture: Sharp): Promise<string> {
  const { hasAlpha } = await picture.metadata()
  if (!hasAlpha) return GROUND
  const small = picture.resize(160, 90, { fit: 'inside' }).toColourspace('srgb').ensureAlpha().raw()
  const { data } = await small.toBuffer({ resolveWithObject: true })
  let [light, drawn] = [0, 0]
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]!
    light += alpha * (0.2126 * data[i]! + 0.7152 * data[i + 1]! + 0.0722 * data[i + 2]!)
    drawn += alpha
  }
  // What covers everything needs no ground.
  const isCovered = drawn > 0.98 * 255 * (data.length / 4)
  return !isCovered && drawn > 0 && light / drawn > LIGHT ? DARK_GROUND : GROUND
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

import { PLAIN_GROUNDS } from '@/core/picture/frame'
import { mkdtemp, readdir, readFile, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import sharp, { type Sharp } from 'sharp'
import type { Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { isDiskFull } from '../store/disk'
import { inputOf, orDamaged } from '../ffmpeg'
import { CODING_MEMORY, runProgram, writeWhole } from '../process'
import { PARTS } from '../store/store'

/** Of 255: what is lighter can't be read on white. */
const LIGHT = 165
/** Of 255: a picture whose edges are darker stands on a dark ground. */
const DARK = 60
/** Of a page's longer side: what a frame of 1080 lines can show. Larger ones are drawn anew (see pageFile.ts). */
export const PAGE_PIXELS = 1920
const THUMBNAIL_WIDTH = 320
const MOST_PIXELS = 100e6

/** Makes the page of a picture file. Of one that moves the first picture is used, and that is said. */
export async function importStill(
  path: string,
  extension: string,
  name: string,
  folder: string,
): Promise<{ pages: string[]; darkPages: number[]; note: string | null }> {
  const source = await pictureSource(path, extension, name, folder)
  const { width = 0, height = 0, pages = 1 } = await readable(name, () => source().metadata())
  if (width * height > MOST_PIXELS) {
    throw new UserError(say('imports.pictureTooLarge', { name, width, height }))
  }
  const { isDark } = await readable(name, () => makePage(source(), folder, 1))
  const moves = say('imports.thisPictureMovesAnd')
  const darkPages = isDark ? [1] : []
  return { pages: [''], darkPages, note: pages > 1 && extension !== 'tif' && extension !== 'heic' ? moves : null }
}

/** A picture file as it can be read; what the library can't read is turned into PNG by another one. */
export async function pictureSource(
  path: string,
  extension: string,
  name: string,
  folder: string,
): Promise<() => Sharp> {
  const options = { limitInputPixels: false }
  if (extension === 'svg') return drawnSvg(path, name)
  if (extension !== 'bmp' && extension !== 'heic') return () => sharp(path, options)
  const work = await mkdtemp(join(folder, 'turned-'))
  const png = join(work, 'turned.png')
  const [program, args]: [string, string[]] =
    extension === 'bmp'
      ? ['ffmpeg', ['-v', 'error', ...inputOf(path, 'bmp_pipe'), '-frames:v', '1', png]]
      : ['heif-convert', ['-q', '100', path, png]]
  const bytes = await orDamaged(name, async () => {
    await runProgram(program, args, { limit: 60, memory: CODING_MEMORY })
    // Of a file of several pictures the first is meant; each has a file then, with its number.
    const [first] = (await readdir(work)).sort()
    if (!first) throw new Error(`${program} has written nothing`)
    return readFile(join(work, first))
  })
  await rm(work, { recursive: true })
  return () => sharp(bytes, options)
}

const MOST_SVG = 20e6 // bytes
/** Drawn so large that it is sharp when it fills a frame of 2160 lines. */
const SVG_SIZE = 2 * PAGE_PIXELS
const DRAWING_LIMIT: Seconds = 30
const DRAWING_MEMORY = 1024 ** 3 // bytes

/**
 * A drawing is drawn by a program of its own, under limits of time and memory: filters can take any amount of both. It gets
 * the drawing by its input, which has no place: what it names in files or at addresses is not there for it.
 */
async function drawnSvg(path: string, name: string): Promise<() => Sharp> {
  const drawing = await readFile(path)
  if (drawing.length > MOST_SVG) throw new UserError(say('imports.drawingTooLarge', { name }))
  const args = ['--width', String(SVG_SIZE), '--height', String(SVG_SIZE), '--keep-aspect-ratio']
  const png = await orDamaged(name, () =>
    runProgram('rsvg-convert', args, {
      limit: DRAWING_LIMIT,
      memory: DRAWING_MEMORY,
      feed: (input) => writeWhole(input, drawing),
    }),
  )
  return () => sharp(png, { limitInputPixels: MOST_PIXELS })
}

/** A picture that was made here. */
export const pictureIn = (source: string | Buffer): Sharp => sharp(source, { limitInputPixels: MOST_PIXELS })

/** The picture as it is shown and filmed, in its own shape, and its thumbnail. Tells whether it asks for a dark ground round it. */
export async function makePage(picture: Sharp, folder: string, page: number): Promise<{ isDark: boolean }> {
  const draft = join(folder, `draft-${page}.png`)
  const isDark = await standsOnDark(picture.clone())
  await drawPage(picture, isDark, PAGE_PIXELS, draft)
  await sharp(draft)
    .resize(THUMBNAIL_WIDTH, THUMBNAIL_WIDTH, { fit: 'inside' })
    .webp({ quality: 82 })
    .toFile(join(folder, PARTS.thumbnail(page)))
  await rename(draft, join(folder, PARTS.page(page)))
  return { isDark }
}

/** A picture in usual colours, upright, without anything to see through; at most so many pixels on its longer side. */
export async function drawPage(picture: Sharp, isDark: boolean, pixels: number, out: string): Promise<void> {
  await picture
    .rotate()
    .flatten({ background: PLAIN_GROUNDS[isDark ? 'dark' : 'light'] })
    .resize(pixels, pixels, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .png({ compressionLevel: 3 })
    .toFile(out)
}

/** What is drawn light on nothing, and what is dark at its edges, stands on a dark ground; everything else on white. */
async function standsOnDark(picture: Sharp): Promise<boolean> {
  const small = picture.resize(160, 90, { fit: 'inside' }).toColourspace('srgb').ensureAlpha().raw()
  const { data, info } = await small.toBuffer({ resolveWithObject: true })
  const [all, edges] = [new Light(), new Light()]
  for (let y = 0, at = 0; y < info.height; y++)
    for (let x = 0; x < info.width; x++, at += 4) {
      all.add(data, at)
      if (x === 0 || y === 0 || x === info.width - 1 || y === info.height - 1) edges.add(data, at)
    }
  return all.isCovered() ? edges.mean() < DARK : all.mean() > LIGHT
}

/** How light pixels are where something is drawn, 0..255. */
class Light {
  private light = 0
  private drawn = 0
  private count = 0

  add(data: Uint8Array, at: number): void {
    const alpha = data[at + 3]!
    this.light += alpha * (0.2126 * data[at]! + 0.7152 * data[at + 1]! + 0.0722 * data[at + 2]!)
    this.drawn += alpha
    this.count++
  }

  /** Nothing is seen through it. */
  isCovered = (): boolean => this.drawn > 0.98 * 255 * this.count
  mean = (): number => (this.drawn > 0 ? this.light / this.drawn : 0)
}

async function readable<T>(name: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (isDiskFull(error)) throw new UserError(say('server.diskFull'), { cause: error })
    throw new UserError(say('imports.thisPictureIsDamaged', { name }), {
      cause: error,
    })
  }
}

import { readdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import sharp from 'sharp'
import { cutText, storableText } from '@/core/text'
import type { Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import { DISK_FULL, isDiskFull } from '../store/disk'
import { sentenceFor } from '../ffmpeg'
import { ProgramError, runProgram } from '../process'
import { PARTS } from '../store/store'

/** Size of every finished picture. */
export const PICTURE_WIDTH = 1920
export const PICTURE_HEIGHT = 1080
/** What stands around a picture of other proportions. */
const GROUND = '#ffffff'
const THUMBNAIL_WIDTH = 320
const MOST_PIXELS = 100e6
const MOST_PAGES = 500
const DECK_LIMIT: Seconds = 1800

/** What is written on a page. */
export interface PageText {
  title: string
  text: string
}

const MOST_TEXT = 5000
const MOST_TITLE = 120

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

/** Makes a page a slide; returns what is written on them. */
export async function importDeck(
  path: string,
  name: string,
  folder: string,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<PageText[]> {
  const count = await countPages(path, name)
  const texts: PageText[] = []
  const begun = performance.now()
  for (let page = 1; page <= count; page++) {
    if (performance.now() - begun > DECK_LIMIT * 1000)
      throw new UserError(`Drawing this deck takes too long: ${name}. Split it into files with fewer pages.`)
    texts.push(await importPage(path, name, folder, page, signal))
    onProgress?.(page / count)
  }
  return texts
}

async function countPages(path: string, name: string): Promise<number> {
  const output = await readableDeck(name, () => runProgram('pdfinfo', [path], { limit: 60 }))
  const count = Number(/^Pages:\s+(\d+)/m.exec(output.toString('utf8'))?.[1] ?? 0)
  if (count === 0) throw new UserError(`There are no pages in this file: ${name}.`)
  if (count > MOST_PAGES) {
    throw new UserError(`This deck has ${count} pages: ${name}. Split it into files of at most ${MOST_PAGES} pages.`)
  }
  return count
}

async function importPage(path: string, name: string, folder: string, page: number, signal?: AbortSignal) {
  const only = ['-f', String(page), '-l', String(page)]
  const options = { limit: 60, signal }
  // TIFF, because compressing PNG twice would take most of the time.
  const args = [...only, '-singlefile', '-tiff', '-scale-to', String(PICTURE_WIDTH), path, join(folder, 'raw')]
  await readableDeck(name, () => runProgram('pdftoppm', args, options))
  const raw = (await readdir(folder)).find((file) => file.startsWith('raw'))
  await makePage(join(folder, raw!), folder, page)
  await rm(join(folder, raw!))
  const text = await readableDeck(name, () => runProgram('pdftotext', [...only, path, '-'], options))
  const written = storableText(text.toString('utf8'))
  return { title: firstLine(written), text: cutText(written.replace(/\s+/g, ' ').trim(), MOST_TEXT) }
}

const firstLine = (text: string) => {
  const lines = text.split('\n').map((line) => line.trim())
  return cutText(lines.find((line) => /\p{L}/u.test(line)) ?? '', MOST_TITLE)
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

async function readableDeck<T>(name: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (!(error instanceof ProgramError)) throw error
    if (/password/i.test(error.messages)) {
      throw new UserError(`This PDF is locked with a password: ${name}. Save it without one, then bring it in.`, {
        cause: error,
      })
    }
    const sentence =
      error.reason === 'program'
        ? `This PDF is damaged or incomplete: ${name}. Save it again, then bring it in.`
        : sentenceFor(error, name)
    throw new UserError(sentence, { cause: error })
  }
}

import { assertFewSlides } from './slideShow'
import { readdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { cutText, storableText } from '@/core/text'
import type { Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { sentenceFor } from '../../ffmpeg'
import { inParallel } from '../../inParallel'
import { ProgramError, runProgram } from '../../process'
import { makePage, PAGE_PIXELS, pictureIn } from '../stills'
import { readPageLabels } from './pageLabels'
import { readPages, type PageText } from './pageText'

const LIMIT: Seconds = 1800
const PAGE_LIMIT: Seconds = 60

export interface PdfPage extends PageText {
  /** Whether it stands on a dark ground. */
  isDark: boolean
  /** What it is called in print, where that is not just its number. */
  label: string
}

/** Makes a slide of each page of a PDF; returns what is written on them, and which of them are dark. `isOutlined`: whether somebody has made its outline and
 * its page labels. */
export async function importPdf(
  path: string,
  name: string,
  folder: string,
  isOutlined: boolean,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<PdfPage[]> {
  const count = await countPages(path, name)
  const begun = performance.now()
  const dark: boolean[] = []
  let drawn = 0
  await inParallel(
    Array.from({ length: count }, (_, i) => i + 1),
    async (page) => {
      if (performance.now() - begun > LIMIT * 1000) throw new UserError(say('imports.drawingThisDeckTakes', { name }))
      const raw = await rasterPage(path, name, folder, page, PAGE_PIXELS, signal)
      dark[page - 1] = (await makePage(pictureIn(raw), folder, page)).isDark
      await rm(raw)
      onProgress?.(++drawn / count)
    },
  )
  const options = { limit: LIMIT, signal }
  const written = await readable(name, () => runProgram('pdftohtml', ['-xml', '-i', '-stdout', path], options))
  const pages = readPages(storableText(written.toString('utf8')), count, isOutlined)
  const labels = isOutlined ? await readPageLabels(path, count) : []
  return pages.map((page, i) => ({ ...page, isDark: dark[i]!, label: cutText(storableText(labels[i] ?? ''), 40) }))
}

async function countPages(path: string, name: string): Promise<number> {
  const output = await readable(name, () => runProgram('pdfinfo', [path], { limit: 60 }))
  const count = Number(/^Pages:\s+(\d+)/m.exec(output.toString('utf8'))?.[1] ?? 0)
  if (count === 0) throw new UserError(say('imports.thereAreNoPages', { name }))
  assertFewSlides(count, name)
  return count
}

/**
 * Draws a page so that its longer side has so many pixels, and returns the file. What is seen of a page is its crop box.
 * TIFF, because compressing PNG twice would take most of the time.
 */
export async function rasterPage(
  path: string,
  name: string,
  folder: string,
  page: number,
  pixels: number,
  signal?: AbortSignal,
): Promise<string> {
  const only = ['-f', String(page), '-l', String(page), '-singlefile', '-cropbox']
  const raw = `raw-${page}`
  const args = [...only, '-tiff', '-scale-to', String(pixels), path, join(folder, raw)]
  await readable(name, () => runProgram('pdftoppm', args, { limit: PAGE_LIMIT, signal }))
  return join(
    folder,
    (await readdir(folder)).find((file) => file.startsWith(`${raw}.`))!,
  )
}

async function readable<T>(name: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (!(error instanceof ProgramError)) throw error
    if (/password/i.test(error.messages)) {
      throw new UserError(say('imports.thisPdfIsLocked', { name }), {
        cause: error,
      })
    }
    const sentence = error.reason === 'program' ? say('imports.thisPdfIsDamaged', { name }) : sentenceFor(error, name)
    throw new UserError(sentence, { cause: error })
  }
}

import { readdir, rm } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { storableText } from '@/core/text'
import type { Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import { sentenceFor } from '../../ffmpeg'
import { ProgramError, runProgram } from '../../process'
import { FRAME } from '@/core/picture/frame'
import { makePage, pictureIn } from '../stills'
import { readPages, type PageText } from './pageText'

const MOST_PAGES = 500
const LIMIT: Seconds = 1800
const PAGE_LIMIT: Seconds = 60

/** Makes a slide of each page of a PDF; returns what is written on them. `isOutlined`: whether somebody has made its outline. */
export async function importPdf(
  path: string,
  name: string,
  folder: string,
  isOutlined: boolean,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<PageText[]> {
  const count = await countPages(path, name)
  const begun = performance.now()
  let [next, drawn] = [1, 0]
  const draw = async () => {
    for (let page = next++; page <= count; page = next++) {
      if (performance.now() - begun > LIMIT * 1000)
        throw new UserError(`Drawing this deck takes too long: ${name}. Split it into files with fewer pages.`)
      await drawPage(path, name, folder, page, signal)
      onProgress?.(++drawn / count)
    }
  }
  await Promise.all(Array.from({ length: Math.min(availableParallelism(), 4) }, draw))
  const options = { limit: LIMIT, signal }
  const written = await readable(name, () => runProgram('pdftohtml', ['-xml', '-i', '-stdout', path], options))
  return readPages(storableText(written.toString('utf8')), count, isOutlined)
}

async function countPages(path: string, name: string): Promise<number> {
  const output = await readable(name, () => runProgram('pdfinfo', [path], { limit: 60 }))
  const count = Number(/^Pages:\s+(\d+)/m.exec(output.toString('utf8'))?.[1] ?? 0)
  if (count === 0) throw new UserError(`There are no pages in this file: ${name}.`)
  if (count > MOST_PAGES) {
    throw new UserError(`This deck has ${count} pages: ${name}. Split it into files of at most ${MOST_PAGES} pages.`)
  }
  return count
}

/** What is seen of a page is its crop box. TIFF, because compressing PNG twice would take most of the time. */
async function drawPage(path: string, name: string, folder: string, page: number, signal?: AbortSignal): Promise<void> {
  const only = ['-f', String(page), '-l', String(page), '-singlefile', '-cropbox']
  const raw = `raw-${page}`
  const args = [...only, '-tiff', '-scale-to', String(FRAME.width), path, join(folder, raw)]
  await readable(name, () => runProgram('pdftoppm', args, { limit: PAGE_LIMIT, signal }))
  const drawn = (await readdir(folder)).find((file) => file.startsWith(`${raw}.`))!
  await makePage(pictureIn(join(folder, drawn)), folder, page)
  await rm(join(folder, drawn))
}

async function readable<T>(name: string, work: () => Promise<T>): Promise<T> {
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

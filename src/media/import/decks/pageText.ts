import { decodeXML } from 'entities'
import { cutText } from '@/core/text'
import { logicalOrder } from './logicalOrder'

/** What is written on a page. */
export interface PageText {
  title: string
  text: string
}

const MOST_TEXT = 5000
const MOST_TITLE = 120
/**
 * What stands at its place on so large a share of the pages belongs to the deck, not to a page; a heading may go on over
 * many pages that build up, so what is written largest must be nearly everywhere.
 */
const RUNNING = 0.3
const EVERYWHERE = 0.6
/** Letters of about the same size, and lines that follow each other. */
const SAME_SIZE = 1.08
const NEXT_LINE = 1.9
/** Where a page's own heading is. */
const UPPER = 0.5

interface Line {
  text: string
  /** Of its upper edge, and of its letters, as shares of the page's height. */
  top: number
  size: number
}

/**
 * Reads what `pdftohtml -xml` prints of `count` pages. A page's title is what its outline calls it, where it has one that names most pages;
 * otherwise what is written largest in its upper half, and not at the same place on many pages, as running heads are.
 */
export function readPages(printed: string, count: number, isOutlined: boolean): PageText[] {
  const pages = Array.from({ length: count }, () => [] as Line[])
  const sizes = new Map<string, number>()
  let [page, height] = [0, 1]
  for (const line of printed.split('\n')) {
    const start = /<page number="(\d+)"[^>]* height="([\d.]+)"/.exec(line)
    if (start) [page, height] = [Number(start[1]), Number(start[2])]
    const font = /<fontspec id="(\d+)" size="(\d+)"/.exec(line)
    if (font) sizes.set(font[1]!, Number(font[2]))
    const text = /<text top="(-?[\d.]+)"[^>]* font="(\d+)">(.*)<\/text>/.exec(line)
    if (text) addText(pages[page - 1], plain(text[3]!), Number(text[1]) / height, (sizes.get(text[2]!) ?? 0) / height)
  }
  // Only whole lines can be turned round.
  for (const lines of pages)
    for (const [i, text] of logicalOrder(lines.map((line) => line.text)).entries()) lines[i]!.text = text
  const shares = sharesOf(pages)
  const outline = isOutlined ? outlineOf(printed, count) : null
  return pages.map((lines, i) => ({
    title: cutText(outline?.[i] ?? titleOf(lines, shares), MOST_TITLE),
    text: cutText(
      lines
        .map(({ text }) => text)
        .join(' ')
        .replace(/\s+/g, ' ')
        .trim(),
      MOST_TEXT,
    ),
  }))
}

/** A piece of text goes on the line that it stands on; its letters may change within it. */
function addText(lines: Line[] | undefined, text: string, top: number, size: number): void {
  if (!text.trim()) return
  const last = lines?.at(-1)
  if (last && Math.abs(last.top - top) < 0.4 * Math.max(last.size, size) && isNear(last.size, size)) {
    last.text = `${last.text} ${text}`.replace(/\s+/g, ' ')
  } else lines?.push({ text: text.replace(/\s+/g, ' '), top, size })
}

const isNear = (a: number, b: number) => Math.max(a, b) <= SAME_SIZE * Math.min(a, b)

const plain = (xml: string): string =>
  decodeXML(xml.replace(/<[^>]*>/g, ''))
    .replaceAll('\u00a0', ' ')
    .trim()

/** A line and its place; numbers count on from page to page, and are the same line. */
const keyOf = ({ text, top }: Line) => `${text.replace(/\d+/g, '#')} ${Math.round(top * 50)}`

/** On which share of the pages each line stands; of lines on one or two pages nothing is known. */
function sharesOf(pages: readonly Line[][]): Map<string, number> {
  const counts = new Map<string, number>()
  for (const lines of pages) for (const key of new Set(lines.map(keyOf))) counts.set(key, (counts.get(key) ?? 0) + 1)
  return new Map([...counts].map(([key, count]) => [key, count < 3 ? 0 : count / pages.length]))
}

/** What is written largest, with the lines that go on with it. */
function titleOf(lines: readonly Line[], shares: ReadonlyMap<string, number>): string {
  const shareOf = (line: Line) => shares.get(keyOf(line)) ?? 0
  const own = lines.filter((line) => /\p{L}/u.test(line.text) && shareOf(line) < EVERYWHERE)
  const size = Math.max(...own.filter(({ top }) => top < UPPER).map((line) => line.size))
  const readable = own.filter((line) => shareOf(line) < RUNNING || isNear(line.size, size))
  const upper = readable.filter(({ top }) => top < UPPER)
  const pool = upper.length > 0 ? upper : readable
  const largest = Math.max(...pool.map(({ size }) => size))
  const first = pool.findIndex(({ size }) => isNear(size, largest))
  const title: Line[] = []
  for (const line of pool.slice(Math.max(0, first))) {
    const before = title.at(-1)
    if (before && (!isNear(line.size, largest) || line.top - before.top > NEXT_LINE * largest)) break
    title.push(line)
  }
  return title.map(({ text }) => text).join(' ')
}

/** What the outline calls each page, where it names most of them; parts of several pages are named by their first. */
function outlineOf(printed: string, count: number): string[] | null {
  const titles = new Map<number, string>()
  for (const [, page, title] of printed.matchAll(/<item page="(\d+)">(.*?)<\/item>/g))
    titles.set(Number(page), plain(title!))
  if (titles.size < 0.8 * count) return null
  return Array.from({ length: count }, (_, i) => titles.get(i + 1) ?? '')
}

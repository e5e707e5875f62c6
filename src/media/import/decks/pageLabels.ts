import { z } from 'zod'
import { runProgram } from '../../process'

/** How pages are numbered in print: ranges, each from a page on (PDF 32000-1, 12.4.2), as `qpdf --json` tells them. */
const rangesSchema = z.object({
  pagelabels: z.array(
    z.object({
      index: z.int().min(0),
      label: z.object({
        '/S': z.string().optional(),
        '/St': z.int().optional(),
        '/P': z.string().optional(),
      }),
    }),
  ),
})

/** What the pages of a PDF are called in print; empty where that is just their number, or the file doesn't say. */
export async function readPageLabels(path: string, count: number): Promise<string[]> {
  const args = ['--json', '--json-key=pagelabels', path]
  const printed = await runProgram('qpdf', args, { limit: 60 }).catch(() => null)
  const ranges = printed && rangesSchema.safeParse(JSON.parse(printed.toString('utf8')))
  return ranges?.success ? labelsOf(ranges.data.pagelabels, count) : []
}

type Range = z.infer<typeof rangesSchema>['pagelabels'][number]

export function labelsOf(ranges: readonly Range[], count: number): string[] {
  const labels = Array.from({ length: count }, (_, page) => {
    const range = ranges.findLast(({ index }) => index <= page)
    if (!range) return String(page + 1)
    const { '/S': style, '/St': first = 1, '/P': prefix = '' } = range.label
    return (prefix.replace(/^u:/, '') + numeral(style, first + page - range.index)).trim()
  })
  return labels.some((label, page) => label !== '' && label !== String(page + 1)) ? labels : []
}

function numeral(style: string | undefined, number: number): string {
  switch (style) {
    case '/D':
      return String(number)
    case '/r':
      return roman(number)
    case '/R':
      return roman(number).toUpperCase()
    case '/a':
      return letters(number)
    case '/A':
      return letters(number).toUpperCase()
    default:
      return ''
  }
}

const ROMAN = Object.entries({
  ...{ m: 1000, cm: 900, d: 500, cd: 400, c: 100, xc: 90 },
  ...{ l: 50, xl: 40, x: 10, ix: 9, v: 5, iv: 4, i: 1 },
})

function roman(number: number): string {
  let [left, written] = [Math.min(number, 4999), '']
  for (const [sign, value] of ROMAN)
    while (left >= value) {
      written += sign
      left -= value
    }
  return written
}

/** a to z, then aa to zz, and so on. */
const letters = (number: number): string =>
  String.fromCharCode(97 + ((number - 1) % 26)).repeat(Math.min(10, Math.ceil(number / 26)))

import { asXml } from '@/core/formats/xmlText'
import type { BalanceSheet } from '@/core/mix/balanceSheet'

/** What was measured in finished files, as one table to be read. */

export interface MeasuredFile {
  lesson: string
  file: string
  balance: BalanceSheet | null
}

const COLUMNS: [title: string, value: (balance: BalanceSheet) => string][] = [
  ['Loudness, LUFS', ({ loudness }) => (loudness === null ? 'silent' : loudness.toFixed(1))],
  ['True peak, dBTP', ({ truePeak }) => (truePeak === null ? 'silent' : truePeak.toFixed(1))],
  ['Music under the voice, LU', ({ clearance }) => (clearance === null ? '–' : clearance.toFixed(1))],
  ['Where it should be, %', ({ within }) => share(within)],
  ['Voice covered, %', ({ masked }) => share(masked)],
  ['Music not heard, %', ({ lost }) => share(lost)],
  ['Heard to pump, a minute', ({ motion }) => (motion ? motion.bumps.toFixed(1) : '–')],
  ['Length, s', ({ soundLength }) => soundLength.toFixed(1)],
]

const share = (value: number | null) => (value === null ? '–' : (100 * value).toFixed(1))

/** A page by itself, to be read. */
export function measuredAsHtml(title: string, files: readonly MeasuredFile[]): string {
  const head = ['Lesson', 'File', ...COLUMNS.map(([column]) => column)].map(
    (column) => `<th scope="col">${column}</th>`,
  )
  const rows = files.map(({ lesson, file, balance }) => {
    const cells = [file, ...COLUMNS.map(([, value]) => (balance ? value(balance) : '–'))]
    return `<tr><th scope="row">${asXml(lesson)}</th>${cells.map((cell) => `<td>${asXml(cell)}</td>`).join('')}</tr>`
  })
  return `<!doctype html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>${asXml(title)}: measured</title>
  <style>body { font: 1rem/1.5 sans-serif; margin: 2rem } table { border-collapse: collapse } th, td { text-align: left; padding: .3rem .8rem; border-bottom: 1px solid #999 }</style>
</head>
<body>
  <h1>${asXml(title)}</h1>
  <p>Measured in the finished files, decoded again.</p>
  <table>
    <thead><tr>${head.join('')}</tr></thead>
    <tbody>
${rows.join('\n')}
    </tbody>
  </table>
</body>
</html>
`
}

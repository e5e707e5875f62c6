import { readFileSync } from 'node:fs'
import { join } from 'node:path'

/** One drawn slide: its title and what stands below, as SVG in a field of 1760 x 800. */
export interface Slide {
  title: string
  accent: string
  drawing: string
}

export const INK = '#161d29'
export const SEA = '#12475a'
export const SAND = '#f7f4e9'
export const SUN = '#fde6bd'

const WIDTH = 1920
const HEIGHT = 1080

/** A page of slides for the browser's printer, one slide a sheet, with real text in our own type. */
export function slidesHtml(slides: readonly Slide[], projectFolder: string): string {
  const sheets = slides.map(
    ({ title, accent, drawing }) => `<section><h1 style="background:${accent}">${title}</h1>
<svg viewBox="0 0 1760 800" width="1760" height="800">${drawing}</svg></section>`,
  )
  return `<!doctype html><meta charset="utf-8"><style>
${fontFace(projectFolder, 400)}${fontFace(projectFolder, 700)}
@page { size: ${WIDTH}px ${HEIGHT}px; margin: 0 }
* { margin: 0; box-sizing: border-box }
body { font-family: Demo; color: ${INK} }
section { width: ${WIDTH}px; height: ${HEIGHT}px; background: ${SAND}; overflow: hidden; break-after: page }
h1 { height: 170px; padding: 42px 80px; color: white; font-size: 72px; font-weight: 700 }
svg { display: block; margin: 54px 80px }
text { font-family: Demo; font-size: 44px; fill: ${INK} }
text.big { font-size: 58px; font-weight: 700 }
text.small { font-size: 36px; fill: #44535f }
</style>${sheets.join('\n')}`
}

/** Fonts go into the page itself, because a page without an address may read no files. */
export function fontFace(projectFolder: string, weight: number): string {
  const file = `node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff2`
  const bytes = readFileSync(join(projectFolder, file)).toString('base64')
  return `@font-face { font-family: Demo; font-weight: ${weight}; src: url(data:font/woff2;base64,${bytes}) }\n`
}

export const text = (x: number, y: number, value: string, kind = '') =>
  `<text x="${x}" y="${y}" class="${kind}">${value}</text>`

/** Lines of text, one below the other, each with a knot in front. */
export const points = (x: number, y: number, lines: readonly string[]) =>
  lines
    .map(
      (line, i) =>
        `<circle cx="${x + 12}" cy="${y + i * 96 - 15}" r="12" fill="${SEA}"/>${text(x + 52, y + i * 96, line)}`,
    )
    .join('')

/** A table; `marked` is the row that stands out. */
export function table(
  x: number,
  y: number,
  widths: readonly number[],
  rows: readonly (readonly string[])[],
  marked = -1,
): string {
  const total = widths.reduce((sum, width) => sum + width, 0)
  const height = 84
  return rows
    .map((cells, r) => {
      const top = y + r * height
      const fill = r === 0 ? '#dbe7ec' : r === marked ? SUN : r % 2 ? '#fffdf6' : '#f1eee0'
      let left = x
      const texts = cells.map((cell, c) => {
        const drawn = text(left + 26, top + 58, r === 0 ? `<tspan font-weight="700">${cell}</tspan>` : cell)
        left += widths[c]!
        return drawn
      })
      return `<rect x="${x}" y="${top}" width="${total}" height="${height}" fill="${fill}" stroke="#cfd6d2"/>${texts.join('')}`
    })
    .join('')
}

/** A day's tide: two rises and falls, `heights` in metres from low to high. */
export function tideCurve(
  x: number,
  y: number,
  width: number,
  height: number,
  marks: readonly { share: number; label: string }[] = [],
): string {
  const level = (share: number) => y + height / 2 + (Math.cos(share * 4 * Math.PI) * height) / 2.3
  const path = Array.from(
    { length: 121 },
    (_, i) => `${i ? 'L' : 'M'}${x + (width * i) / 120} ${level(i / 120).toFixed(1)}`,
  ).join('')
  const labels = marks.map(({ share, label }) => {
    const at = x + width * share
    return `<circle cx="${at}" cy="${level(share)}" r="14" fill="#b0204f"/>${text(at + 22, level(share) - 18, label, 'small')}`
  })
  return `<path d="M${x} ${y + height}h${width}" stroke="#8a97a0" stroke-width="3"/><path d="${path}" fill="none" stroke="${SEA}" stroke-width="9"/>${labels.join('')}`
}

export const boat = (x: number, y: number, scale: number, turn = 0) =>
  `<g transform="translate(${x} ${y}) rotate(${turn}) scale(${scale})"><path d="M-120 0C-90 46 70 46 120 0C60 -46 -90 -46 -120 0Z" fill="white" stroke="${INK}" stroke-width="6"/><path d="M-60 0h110" stroke="${INK}" stroke-width="5"/><circle cx="10" cy="0" r="8" fill="${INK}"/></g>`

export const arrow = (x1: number, y1: number, x2: number, y2: number, colour = '#b0204f') => {
  const angle = Math.atan2(y2 - y1, x2 - x1)
  const wing = (turn: number) => `${x2 - 34 * Math.cos(angle + turn)} ${y2 - 34 * Math.sin(angle + turn)}`
  return `<path d="M${x1} ${y1}L${x2} ${y2}M${wing(0.45)}L${x2} ${y2}L${wing(-0.45)}" fill="none" stroke="${colour}" stroke-width="9" stroke-linecap="round"/>`
}

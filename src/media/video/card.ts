import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parse, type Font, type PathCommand } from 'opentype.js'
import { PICTURE_HEIGHT, PICTURE_WIDTH } from '../import/stills'
import { projectFolder } from '../settings'

const TITLE_SIZE = 112
const LINE_SIZE = 56
const LEFT = 190
const WIDEST = PICTURE_WIDTH - 2 * LEFT
const COLOURS = {
  ground: '#f5f8f9',
  graph: '#dde6ea',
  ink: '#161d29',
  slate: '#4a5a6a',
  voice: '#b0204f',
  bed: '#12647a',
}

let fonts: { bold: Font; plain: Font } | undefined

/** A card as SVG at the video's size. Its text is drawn as outlines, so that it looks the same everywhere. */
export function drawCard(lines: readonly string[]): string {
  fonts ??= { bold: loadFont(700), plain: loadFont(400) }
  const [title = '', ...rest] = lines
  const titleLines = wrapped(fonts.bold, title, TITLE_SIZE)
  const restLines = rest.flatMap((line) => wrapped(fonts!.plain, line, LINE_SIZE))
  const height = titleLines.length * TITLE_SIZE * 1.12 + restLines.length * LINE_SIZE * 1.5
  let y = (PICTURE_HEIGHT - height) / 2 + TITLE_SIZE * 0.8
  const drawn: string[] = []
  for (const line of titleLines) {
    drawn.push(outline(fonts.bold, line, y, TITLE_SIZE, COLOURS.ink))
    y += TITLE_SIZE * 1.12
  }
  y += LINE_SIZE * 0.2
  for (const line of restLines) {
    drawn.push(outline(fonts.plain, line, y, LINE_SIZE, COLOURS.slate))
    y += LINE_SIZE * 1.5
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${PICTURE_WIDTH}" height="${PICTURE_HEIGHT}" viewBox="0 0 ${PICTURE_WIDTH} ${PICTURE_HEIGHT}">${ground()}${drawn.join('')}</svg>`
}

/** Graph paper, and a row of steps knitted from two yarns. */
function ground(): string {
  const lines: string[] = []
  for (let x = 60; x < PICTURE_WIDTH; x += 60) lines.push(`M${x} 0V${PICTURE_HEIGHT}`)
  for (let y = 60; y < PICTURE_HEIGHT; y += 60) lines.push(`M0 ${y}H${PICTURE_WIDTH}`)
  const stairs = (y: number, colour: string) =>
    `<path d="M0 ${y}h240v-60h240v-60h240v60h240v-60h240v60h240v60h240v-60h240v60" fill="none" stroke="${colour}" stroke-width="10" stroke-linejoin="round"/>`
  return `<rect width="100%" height="100%" fill="${COLOURS.ground}"/><path d="${lines.join('')}" stroke="${COLOURS.graph}" stroke-width="2"/>${stairs(960, COLOURS.voice)}${stairs(1020, COLOURS.bed)}`
}

const outline = (font: Font, text: string, y: number, size: number, colour: string) =>
  `<path d="${pathData(font.getPath(text, LEFT, y, size).commands)}" fill="${colour}"/>`

/** Written here, because the library's own writer turns some coordinates into NaN. */
function pathData(commands: readonly PathCommand[]): string {
  return commands
    .map((command) => {
      const numbers = [
        'x1' in command && [command.x1, command.y1],
        'x2' in command && [command.x2, command.y2],
        'x' in command && [command.x, command.y],
      ]
      return (
        command.type +
        numbers
          .flatMap((pair) => pair || [])
          .map((value) => value.toFixed(1))
          .join(' ')
      )
    })
    .join('')
}

function wrapped(font: Font, text: string, size: number): string[] {
  const lines: string[] = []
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const longer = lines.length > 0 ? `${lines.at(-1)} ${word}` : word
    if (lines.length > 0 && font.getAdvanceWidth(longer, size) <= WIDEST) lines[lines.length - 1] = longer
    else lines.push(word)
  }
  return lines
}

function loadFont(weight: number): Font {
  const folder = 'node_modules/@fontsource/atkinson-hyperlegible-next/files'
  const file = readFileSync(join(projectFolder(), folder, `atkinson-hyperlegible-next-latin-${weight}-normal.woff`))
  return parse(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength))
}

/** The server runs in the project's folder; the headless command may be called from anywhere. */

import { FRAME } from '@/core/picture/frame'
import { setText, type TextStyle } from './textBlock'

const TITLE_SIZE = 112
const LINE_SIZE = 56
const LEFT = 190
const WIDEST = FRAME.width - 2 * LEFT
const COLOURS = {
  ground: '#f5f8f9',
  graph: '#dde6ea',
  ink: '#161d29',
  slate: '#4a5a6a',
  voice: '#b0204f',
  bed: '#12647a',
}

const USUAL = { letters: 'plain', width: WIDEST, align: 'left' } as const
const TITLE: TextStyle = { ...USUAL, weight: 700, size: TITLE_SIZE, leading: 1.12, colour: COLOURS.ink }
const LINE: TextStyle = { ...USUAL, weight: 400, size: LINE_SIZE, leading: 1.5, colour: COLOURS.slate }

/** A card as SVG at the video's size. */
export async function drawCard(lines: readonly string[]): Promise<string> {
  const [title = '', ...rest] = lines
  const blocks = await Promise.all([setText(title, TITLE), ...rest.map((line) => setText(line, LINE))])
  let y = (FRAME.height - blocks.reduce((sum, { height }) => sum + height, 0)) / 2
  const drawn = blocks.map((block, i) => {
    const svg = block.draw(LEFT, y)
    y += block.height + (i === 0 ? LINE_SIZE : 0)
    return svg
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${FRAME.width}" height="${FRAME.height}" viewBox="0 0 ${FRAME.width} ${FRAME.height}">${ground()}${drawn.join('')}</svg>`
}

/** Graph paper, and a row of steps knitted from two yarns. */
function ground(): string {
  const lines: string[] = []
  for (let x = 60; x < FRAME.width; x += 60) lines.push(`M${x} 0V${FRAME.height}`)
  for (let y = 60; y < FRAME.height; y += 60) lines.push(`M0 ${y}H${FRAME.width}`)
  const stairs = (y: number, colour: string) =>
    `<path d="M0 ${y}h240v-60h240v-60h240v60h240v-60h240v60h240v60h240v-60h240v60" fill="none" stroke="${colour}" stroke-width="10" stroke-linejoin="round"/>`
  return `<rect width="100%" height="100%" fill="${COLOURS.ground}"/><path d="${lines.join('')}" stroke="${COLOURS.graph}" stroke-width="2"/>${stairs(960, COLOURS.voice)}${stairs(1020, COLOURS.bed)}`
}

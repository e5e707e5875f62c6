import type { Frame } from '@/core/picture/frame'
import { svgOf } from './overlay'
import { setText } from './textBlock'

const TITLE_SIZE = 112
const LINE_SIZE = 56
/** Of the frame's width. */
const LEFT = 0.1
const COLOURS = {
  ground: '#f5f8f9',
  graph: '#dde6ea',
  ink: '#161d29',
  slate: '#4a5a6a',
  voice: '#b0204f',
  bed: '#12647a',
}

const TITLE = {
  letters: 'plain',
  align: 'left',
  weight: 700,
  size: TITLE_SIZE,
  leading: 1.12,
  colour: COLOURS.ink,
} as const
const LINE = {
  letters: 'plain',
  align: 'left',
  weight: 400,
  size: LINE_SIZE,
  leading: 1.5,
  colour: COLOURS.slate,
} as const

/** A card as SVG at the video's size. */
export async function drawCard(lines: readonly string[], frame: Frame): Promise<string> {
  const [title = '', ...rest] = lines
  const left = Math.round(frame.width * LEFT)
  const width = frame.width - 2 * left
  const blocks = await Promise.all([
    setText(title, { ...TITLE, width }),
    ...rest.map((line) => setText(line, { ...LINE, width })),
  ])
  let y = (frame.height - blocks.reduce((sum, { height }) => sum + height, 0)) / 2
  const drawn = blocks.map((block, i) => {
    const svg = block.draw(left, y)
    y += block.height + (i === 0 ? LINE_SIZE : 0)
    return svg
  })
  return svgOf(frame, `${ground(frame)}${drawn.join('')}`)
}

/** Graph paper, and a row of steps knitted from two yarns along the lower edge. */
function ground({ width, height }: Frame): string {
  const lines: string[] = []
  for (let x = 60; x < width; x += 60) lines.push(`M${x} 0V${height}`)
  for (let y = 60; y < height; y += 60) lines.push(`M0 ${y}H${width}`)
  const [stair, rises] = [width / 8, [-60, -60, 60, -60, 60, 60, -60]]
  const stairs = (y: number, colour: string) =>
    `<path d="M0 ${y}h${stair}${rises.map((rise) => `v${rise}h${stair}`).join('')}" fill="none" stroke="${colour}" stroke-width="10" stroke-linejoin="round"/>`
  return `<rect width="100%" height="100%" fill="${COLOURS.ground}"/><path d="${lines.join('')}" stroke="${COLOURS.graph}" stroke-width="2"/>${stairs(height - 120, COLOURS.voice)}${stairs(height - 60, COLOURS.bed)}`
}

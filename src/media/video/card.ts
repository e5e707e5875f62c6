import { PICTURE_HEIGHT, PICTURE_WIDTH } from '../import/stills'
import { canBeOutlined, outlineOf, widthOf, type Weight } from './cardFonts'

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

interface Block {
  height: number
  /** Drawn with its upper edge at `y`. */
  draw(y: number): string
}

interface Style {
  weight: Weight
  size: number
  leading: number
  colour: string
}

const TITLE: Style = { weight: 700, size: TITLE_SIZE, leading: 1.12, colour: COLOURS.ink }
const LINE: Style = { weight: 400, size: LINE_SIZE, leading: 1.5, colour: COLOURS.slate }

/**
 * A card as SVG at the video's size. Its text is drawn as outlines, so that it looks the same everywhere; scripts that have
 * to be shaped, or that none of our fonts has letters for, are set by Pango with what is installed on this machine.
 */
export async function drawCard(lines: readonly string[]): Promise<string> {
  const [title = '', ...rest] = lines
  const blocks = await Promise.all([blockOf(title, TITLE), ...rest.map((line) => blockOf(line, LINE))])
  let y = (PICTURE_HEIGHT - blocks.reduce((sum, { height }) => sum + height, 0)) / 2
  const drawn = blocks.map((block, i) => {
    const svg = block.draw(y)
    y += block.height + (i === 0 ? LINE_SIZE : 0)
    return svg
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${PICTURE_WIDTH}" height="${PICTURE_HEIGHT}" viewBox="0 0 ${PICTURE_WIDTH} ${PICTURE_HEIGHT}">${ground()}${drawn.join('')}</svg>`
}

const blockOf = (text: string, style: Style): Promise<Block> | Block =>
  canBeOutlined(text, style.weight) ? outlined(text, style) : setByPango(text, style)

function outlined(text: string, { weight, size, leading, colour }: Style): Block {
  const lines = wrapped(text, weight, size)
  return {
    height: lines.length * size * leading,
    draw: (y) =>
      lines
        .map((line, i) => outlineOf(line, weight, size, LEFT, y + (i * leading + 0.8) * size))
        .map((data) => `<path d="${data}" fill="${colour}"/>`)
        .join(''),
  }
}

function wrapped(text: string, weight: Weight, size: number): string[] {
  const lines: string[] = []
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const longer = lines.length > 0 ? `${lines.at(-1)} ${word}` : word
    if (lines.length > 0 && widthOf(longer, weight, size) <= WIDEST) lines[lines.length - 1] = longer
    else lines.push(word)
  }
  return lines
}

async function setByPango(text: string, { weight, size, leading, colour }: Style): Promise<Block> {
  const { default: sharp } = await import('sharp')
  const escaped = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
  const image = sharp({
    text: {
      text: `<span foreground="${colour}" weight="${weight}">${escaped}</span>`,
      font: `sans-serif ${size}`,
      // A point is a pixel.
      dpi: 72,
      rgba: true,
      width: WIDEST,
      wrap: 'word-char',
      spacing: Math.round(size * (leading - 1)),
    },
  }).png()
  const { data, info } = await image.toBuffer({ resolveWithObject: true })
  const gap = (size * (leading - 1)) / 2
  return {
    height: info.height + 2 * gap,
    draw: (y) =>
      `<image x="${LEFT}" y="${y + gap}" width="${info.width}" height="${info.height}" href="data:image/png;base64,${data.toString('base64')}"/>`,
  }
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

import sharp from 'sharp'
import type { Area, Layer, Look, PointerLayer, WordsLayer } from '@/core/lesson/layers'
import { drawPointer } from '@/core/picture/pointers'
import { LEAST_SIZE, SMALLER, WORD_PADDING, WORD_ROLES } from '@/core/picture/wordSize'
import { pixelsOf, type Overlay } from '@/core/picture/raster'
import { rasterSize, UNITS, type Frame } from '@/core/picture/frame'
import { setText, type TextStyle } from './textBlock'

/** What lies over a picture, drawn in the lesson's own look. */

/** One that is drawn by itself: a closer look moves the picture, and blocks are made of it. */
export type DrawnLayer = Exclude<Layer, { kind: 'closer' }>

/**
 * A layer as SVG of the whole frame. `area`: where it is now; `share`: how much of a pointer has been drawn so far. Empty
 * for blocks, which are made of the picture.
 */
export async function drawLayer(layer: DrawnLayer, look: Look, area: Area, frame: Frame, share = 1): Promise<string> {
  return svgOf(frame, await contentOf(layer, look, area, frame, share))
}

/** A drawing in units of the frame. */
export function svgOf(frame: Frame, content: string): string {
  const { width, height } = rasterSize(frame)
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${frame.width} ${frame.height}">${content}</svg>`
}

async function contentOf(layer: DrawnLayer, look: Look, area: Area, frame: Frame, share: number): Promise<string> {
  switch (layer.kind) {
    case 'words':
      return drawWords(layer, look, area, frame)
    case 'pointer':
      return pointer({ ...layer, area }, look, frame, share)
    case 'cover': {
      if (layer.way === 'blocks') return ''
      const [left, top, right, bottom] = pixelsOf(area, frame)
      return `<rect x="${left}" y="${top}" width="${right - left}" height="${bottom - top}" fill="${look.ground}"/>`
    }
  }
}

async function drawWords({ role, text }: WordsLayer, look: Look, area: Area, frame: Frame): Promise<string> {
  if (!text.trim()) return ''
  if (role === 'caption') return drawCaption(text, look, area, frame)
  const { block, size } = await fitted(text, role, look, area, frame)
  const padding = look.boxed ? WORD_PADDING * size : 0
  const [left, width] = [area.x * frame.width, area.width * frame.width]
  const top = area.y * frame.height + (area.height * frame.height - block.height) / 2
  const isMiddle = WORD_ROLES[role].align === 'middle'
  const [from, boxWidth] = [isMiddle ? left + (width - block.width) / 2 - padding : left, block.width + 2 * padding]
  const words = block.draw(isMiddle ? left + width / 2 : left + padding, top)
  if (!look.boxed) return words
  const box = `<rect x="${from}" y="${top - padding / 2}" width="${boxWidth}" height="${block.height + padding}" fill="${look.ground}"/>`
  // A step of yarn along its lower edge.
  const [y, rise] = [top + block.height + padding / 2, size * 0.16]
  const step = `<path d="M${from} ${y}h${boxWidth / 3}v${-rise}h${boxWidth / 3}v${rise}h${boxWidth / 3}" fill="none" stroke="${look.accent}" stroke-width="${Math.max(4, size * 0.08)}"/>`
  return box + step + words
}

/** White on dark in every lesson, so that they are read over any picture. */
const CAPTION_COLOURS = { letters: 'plain', ink: '#ffffff', ground: '#000000' } as const
const CAPTION_GROUND = 0.78
const CAPTION_SIZES = { small: 0.8, usual: 1, large: 1.3 }

/** It grows from the area's edge that is nearer to the frame's. */
async function drawCaption(text: string, look: Look, area: Area, frame: Frame): Promise<string> {
  const { size: sized, place, ground } = look.captions
  const own = { ...look, ...CAPTION_COLOURS, boxed: ground === 'box' }
  const { block, size } = await fitted(text, 'caption', own, area, frame, CAPTION_SIZES[sized])
  const [padX, padY] = [WORD_PADDING * size, (WORD_PADDING * size) / 2]
  const middle = (area.x + area.width / 2) * frame.width
  const top =
    place === 'upper' ? area.y * frame.height + padY : (area.y + area.height) * frame.height - block.height - padY
  if (ground === 'outline') return block.draw(middle, top)
  const [left, width] = [middle - block.width / 2 - padX, block.width + 2 * padX]
  const box = `<rect x="${left}" y="${top - padY}" width="${width}" height="${block.height + 2 * padY}" fill="${CAPTION_COLOURS.ground}" fill-opacity="${CAPTION_GROUND}"/>`
  return box + block.draw(middle, top)
}

/** As large as its role is, or as fits its area. */
async function fitted(text: string, role: WordsLayer['role'], look: Look, area: Area, frame: Frame, times = 1) {
  const { size: share, ...set } = WORD_ROLES[role]
  for (let size = share * UNITS * times; ; size *= SMALLER) {
    const padding = look.boxed ? WORD_PADDING * size : 0
    const width = area.width * frame.width - 2 * padding
    const halo = look.boxed ? undefined : { colour: look.ground, width: size * 0.16 }
    const style: TextStyle = { ...set, letters: look.letters, size, colour: look.ink, width, halo }
    const block = await setText(text, style)
    const fits = block.height + padding <= area.height * frame.height && block.width <= width + 1
    if (fits || size * SMALLER < LEAST_SIZE * UNITS) return { block, size }
  }
}

async function pointer(layer: PointerLayer, look: Look, frame: Frame, share: number): Promise<string> {
  const { path, stroke } = drawPointer(layer, frame, share)
  if (stroke > 0) {
    const line = (colour: string, width: number) =>
      `<path d="${path}" fill="none" stroke="${colour}" stroke-width="${width}" stroke-linecap="round" stroke-linejoin="round"/>`
    return line(look.ground, stroke * 1.7) + line(look.accent, stroke)
  }
  const { x, y, width, height } = layer.area
  const size = Math.min(width * frame.width, height * frame.height) * 0.62
  const style: TextStyle = {
    letters: look.letters,
    weight: 700,
    size,
    leading: 1,
    colour: look.ground,
    width: frame.width,
    align: 'middle',
  }
  const digits = await setText(String(layer.number), style)
  const drawn = digits.draw((x + width / 2) * frame.width, (y + height / 2) * frame.height - size * 0.47)
  return `<path d="${path}" fill="${look.accent}" stroke="${look.ground}" stroke-width="${STROKE_AROUND}"/>${drawn}`
}

const STROKE_AROUND = 6

/** A layer as it is laid over a picture, in pixels; null where it is nothing. */
export async function overlayOf(
  layer: DrawnLayer,
  look: Look,
  area: Area,
  frame: Frame,
  share: number,
): Promise<Overlay | null> {
  const svg = await drawLayer(layer, look, area, frame, share)
  if (!/<(path|rect|image)/.test(svg)) return null
  const { data, info } = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return cropped(data, info.width, info.height)
}

/** Without what is fully transparent round it. */
function cropped(data: Buffer, width: number, height: number): Overlay | null {
  let [left, top, right, bottom] = [width, height, -1, -1]
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (data[(y * width + x) * 4 + 3] === 0) continue
      if (x < left) left = x
      if (x > right) right = x
      if (y < top) top = y
      bottom = y
    }
  if (bottom < 0) return null
  const size = { width: right - left + 1, height: bottom - top + 1 }
  const out = new Uint8Array(size.width * size.height * 4)
  for (let y = 0; y < size.height; y++) {
    const from = ((top + y) * width + left) * 4
    out.set(data.subarray(from, from + size.width * 4), y * size.width * 4)
  }
  return { x: left, y: top, ...size, data: out }
}

import { canBeOutlined, outlineOf, widthOf, type Letters, type Weight } from './cardFonts'

/** Some lines of text, as SVG. */
export interface TextBlock {
  height: number
  /** Of its longest line. */
  width: number
  /** Drawn with its upper edge at `y`; lines begin at `x`, or have their middle there. */
  draw(x: number, y: number): string
}

export interface TextStyle {
  letters: Letters
  weight: Weight
  /** In pixels. */
  size: number
  leading: number
  colour: string
  /** Lines are broken so that they are not wider, in pixels. */
  width: number
  align: 'left' | 'middle'
  /** Drawn round the letters, where they stand on a picture. */
  halo?: { colour: string; width: number }
}

/**
 * Text is drawn as outlines, so that it looks the same everywhere; scripts that have to be shaped, or that none of our
 * fonts has letters for, are set by Pango with what is installed on this machine.
 */
export const setText = (text: string, style: TextStyle): Promise<TextBlock> | TextBlock =>
  canBeOutlined(text, style.letters, style.weight) ? outlined(text, style) : setByPango(text, style)

function outlined(text: string, style: TextStyle): TextBlock {
  const { letters, weight, size, leading, colour, align, halo } = style
  const lines = wrapped(text, style)
  const widths = lines.map((line) => widthOf(line, letters, weight, size))
  const around = halo
    ? ` stroke="${halo.colour}" stroke-width="${halo.width}" stroke-linejoin="round" paint-order="stroke"`
    : ''
  return {
    height: lines.length * size * leading,
    width: Math.max(0, ...widths),
    draw: (x, y) =>
      lines
        .map((line, i) => {
          const left = align === 'middle' ? x - widths[i]! / 2 : x
          return outlineOf(line, letters, weight, size, left, y + (i * leading + 0.8) * size)
        })
        .map((data) => `<path d="${data}" fill="${colour}"${around}/>`)
        .join(''),
  }
}

/** Lines as they are written, each broken where it is too wide. */
function wrapped(text: string, { letters, weight, size, width }: TextStyle): string[] {
  return text.split('\n').flatMap((written) => {
    const lines: string[] = []
    for (const word of written.split(/\s+/).filter(Boolean)) {
      const longer = lines.length > 0 ? `${lines.at(-1)} ${word}` : word
      if (lines.length > 0 && widthOf(longer, letters, weight, size) <= width) lines[lines.length - 1] = longer
      else lines.push(word)
    }
    return lines
  })
}

async function setByPango(
  text: string,
  { weight, size, leading, colour, width, align }: TextStyle,
): Promise<TextBlock> {
  const { default: sharp } = await import('sharp')
  const escaped = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
  const image = sharp({
    text: {
      text: `<span foreground="${colour}" weight="${weight}">${escaped}</span>`,
      font: `sans-serif ${size}`,
      // A point is a pixel.
      dpi: 72,
      rgba: true,
      width: Math.round(width),
      wrap: 'word-char',
      align: align === 'middle' ? 'centre' : 'left',
      spacing: Math.round(size * (leading - 1)),
    },
  }).png()
  const { data, info } = await image.toBuffer({ resolveWithObject: true })
  const gap = (size * (leading - 1)) / 2
  return {
    height: info.height + 2 * gap,
    width: info.width,
    draw: (x, y) =>
      `<image x="${align === 'middle' ? x - info.width / 2 : x}" y="${y + gap}" width="${info.width}" height="${info.height}" href="data:image/png;base64,${data.toString('base64')}"/>`,
  }
}

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parse, type Font, type PathCommand } from 'opentype.js'
import { projectFolder } from '../settings'

/**
 * The fonts that ship with the application, for drawing text as outlines: the interface's own, and Noto Sans for what that
 * has no letters for (Greek, Cyrillic, Vietnamese). Each comes in files for parts of it.
 */
const PARTS = ['latin', 'latin-ext', 'vietnamese', 'greek', 'greek-ext', 'cyrillic', 'cyrillic-ext']
const NOTO = { name: 'noto-sans', parts: PARTS }
const FAMILIES = {
  plain: [{ name: 'atkinson-hyperlegible-next', parts: ['latin', 'latin-ext'] }, NOTO],
  book: [{ name: 'literata', parts: ['latin', 'latin-ext', 'vietnamese', 'greek', 'cyrillic'] }, NOTO],
}
/** Which letters: those of the interface, or those of a book. */
export type Letters = keyof typeof FAMILIES

export type Weight = 400 | 700

const loaded = new Map<string, Font[]>()

function familyOf({ name, parts }: typeof NOTO, weight: Weight): Font[] {
  const key = `${name} ${weight}`
  let fonts = loaded.get(key)
  if (!fonts) loaded.set(key, (fonts = parts.map((part) => loadFont(name, part, weight))))
  return fonts
}

function loadFont(name: string, part: string, weight: Weight): Font {
  const path = join(projectFolder(), `node_modules/@fontsource/${name}/files`, `${name}-${part}-${weight}-normal.woff`)
  const file = readFileSync(path)
  return parse(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength))
}

/** A stretch of text in one file of a font. */
interface Run {
  font: Font
  text: string
}

/** A text in the first family that has all its letters; null where none of them has. */
function runsOf(text: string, letters: Letters, weight: Weight): Run[] | null {
  const written = [...text.normalize('NFC')]
  for (const family of FAMILIES[letters]) {
    const fonts = familyOf(family, weight)
    const fontOf = (letter: string) => fonts.find((font) => font.charToGlyphIndex(letter) > 0)
    if (!written.every((letter) => letter === ' ' || fontOf(letter))) continue
    const runs: Run[] = []
    for (const letter of written) {
      const font = letter === ' ' ? (runs.at(-1)?.font ?? fonts[0]!) : fontOf(letter)!
      const last = runs.at(-1)
      if (last?.font === font) last.text += letter
      else runs.push({ font, text: letter })
    }
    return runs
  }
  return null
}

/** Whether the fonts that ship with the application have all letters of a text. */
export const canBeOutlined = (text: string, letters: Letters, weight: Weight): boolean =>
  text.split(/\s+/).every((word) => runsOf(word, letters, weight) !== null)

/** Width in pixels of a text that can be outlined, in letters of so many pixels. */
export const widthOf = (text: string, letters: Letters, weight: Weight, size: number): number =>
  wordsOf(text, letters, weight).reduce((sum, { font, text: part }) => sum + font.getAdvanceWidth(part, size), 0)

/** A text as SVG path data, its baseline beginning at `x`, `y`. */
export function outlineOf(text: string, letters: Letters, weight: Weight, size: number, x: number, y: number): string {
  let at = x
  return wordsOf(text, letters, weight)
    .map(({ font, text: part }) => {
      const data = pathData(font.getPath(part, at, y, size).commands)
      at += font.getAdvanceWidth(part, size)
      return data
    })
    .join('')
}

/** Each word in one family; what is in one font goes on in it, as its letters stand to each other. */
function wordsOf(text: string, letters: Letters, weight: Weight): Run[] {
  const runs: Run[] = []
  for (const run of text.split(/(?= )/).flatMap((word) => runsOf(word, letters, weight) ?? [])) {
    const last = runs.at(-1)
    if (last?.font === run.font) last.text += run.text
    else runs.push(run)
  }
  return runs
}

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

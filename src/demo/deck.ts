import { writeFile } from 'node:fs/promises'
import PptxGenJS from 'pptxgenjs'
import type { Area, LayerName } from '@/core/lesson/layers'

export interface DeckSlide {
  title: string
  /** Of the ground behind the title. */
  accent: string
  isNight?: boolean
  /** What stands below. */
  lines: readonly string[]
  marks: readonly DeckMark[]
  /** What the speaker is to say. */
  notes: string
  isHidden?: boolean
  /** What the lesson lays over it. */
  over?: { layer: LayerName; area: Area }
}

/** Something drawn, in inches of a slide that is 13.33 by 7.5. */
export interface DeckMark {
  shape: 'ellipse' | 'triangle' | 'rect' | 'line'
  x: number
  y: number
  width: number
  height: number
  fill: string
  text?: string
}

/** Installed wherever decks are read. */
const FONT = 'Carlito'
const [DAY_GROUND, DAY_INK] = ['F7F4E9', '161D29']
const [NIGHT_GROUND, NIGHT_INK] = ['1B2B44', 'FFFFFF']

/** Writes slides with notes as an office program has them (Office Open XML). */
export async function writeDeck(slides: readonly DeckSlide[], path: string): Promise<void> {
  const deck = new PptxGenJS()
  deck.layout = 'LAYOUT_WIDE'
  deck.theme = { headFontFace: FONT, bodyFontFace: FONT }
  const title = { name: 'head', type: 'title' as const, x: 0.6, y: 0.25, w: 12, h: 0.8 }
  deck.defineSlideMaster({ title: 'PLAIN', objects: [{ placeholder: { options: title, text: '' } }] })
  for (const { title, accent, isNight, lines, marks, notes, isHidden } of slides) {
    const slide = deck.addSlide({ masterName: 'PLAIN' })
    slide.background = { color: isNight ? NIGHT_GROUND : DAY_GROUND }
    slide.addShape('rect', { x: 0, y: 0, w: 13.33, h: 1.3, fill: { color: accent } })
    slide.addText(title, {
      placeholder: 'head',
      color: 'FFFFFF',
      align: 'left',
      fontSize: 44,
      bold: true,
      fontFace: FONT,
    })
    slide.addText(
      lines.map((text) => ({ text, options: { bullet: true, breakLine: true } })),
      {
        x: 0.5,
        y: 1.8,
        w: 6.4,
        h: 5.2,
        fontSize: 34,
        paraSpaceAfter: 14,
        color: isNight ? NIGHT_INK : DAY_INK,
        fontFace: FONT,
        valign: 'top',
      },
    )
    for (const mark of marks) addMark(slide, mark)
    slide.addNotes(notes)
    slide.hidden = isHidden ?? false
  }
  await writeFile(path, (await deck.write({ outputType: 'nodebuffer' })) as Buffer)
}

function addMark(slide: PptxGenJS.Slide, { shape, x, y, width: w, height: h, fill, text }: DeckMark): void {
  const place = { x, y, w, h }
  if (shape === 'line') slide.addShape('line', { ...place, line: { color: fill, width: 2, dashType: 'dash' } })
  else if (text)
    slide.addText(text, { ...place, shape, fill: { color: fill }, color: 'FFFFFF', fontSize: 24, align: 'center' })
  else slide.addShape(shape, { ...place, fill: { color: fill } })
}

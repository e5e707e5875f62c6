import { Document, HeadingLevel, ImageRun, Packer, Paragraph, TextRun } from 'docx'
import sharp from 'sharp'
import { clock, secondOf } from '@/core/formats/captionFiles'
import { paragraphsOf, type TranscriptOptions } from '@/core/formats/transcripts'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import type { StepSpan } from '@/core/lesson/timeline'
import { frameOf } from '@/core/picture/frame'
import { stackAt } from '@/core/picture/stack'
import type { Assets } from '../store/assets'
import type { MediaStore } from '../store/store'
import { drawStacks } from '../video/drawStacks'

export interface DocumentOptions extends TranscriptOptions {
  /** Whether each step shows its picture. */
  hasPictures: boolean
  signal?: AbortSignal
}

/** A picture on the page is at most so wide and high, and has this many pixels for each of its points. */
const SHOWN = { width: 480, height: 360 }
const PIXELS = 2

/** The package calls whoever isn't named 'Un-named'. */
const MADE_BY = { creator: 'Yarn Step', lastModifiedBy: 'Yarn Step' }

/** What is said in a lesson, as a document that office programs open (Office Open XML, ISO/IEC 29500). */
export async function transcriptAsDocument(
  { lesson, store, assets }: { lesson: Lesson; store: MediaStore; assets: Assets },
  { hasTimes, hasPictures, signal }: DocumentOptions,
): Promise<Buffer> {
  const timeline = layoutLesson(lesson)
  const children = [new Paragraph({ text: lesson.title, heading: HeadingLevel.TITLE })]
  for (const span of timeline.steps) {
    signal?.throwIfAborted()
    children.push(headOf(span, hasTimes))
    if (hasPictures) children.push(...(await pictureOf(span)))
    for (const text of paragraphsOf(span.step.script)) children.push(new Paragraph({ text, spacing: { after: 160 } }))
  }
  const styles = { default: { document: { run: { size: 24, language: { value: lesson.language } } } } }
  return Packer.toBuffer(new Document({ ...MADE_BY, title: lesson.title, styles, sections: [{ children }] }))

  /** What is seen half-way through the step, with all that lies over it. */
  async function pictureOf({ step, start, end }: StepSpan): Promise<Paragraph[]> {
    const stack = stackAt(timeline, (start + end) / 2)
    if (!stack) return []
    const work = { look: lesson.look, frame: frameOf({ ...lesson.frame, lines: 720 }), store, assets, signal }
    for await (const { data, width, height } of drawStacks(work, [stack])) {
      const scale = Math.min(SHOWN.width / width, SHOWN.height / height)
      const shown = { width: Math.round(width * scale), height: Math.round(height * scale) }
      const image = sharp(data, { raw: { width, height, channels: 3 } }).resize(shown.width * PIXELS)
      return [
        new Paragraph({
          children: [
            new ImageRun({
              type: 'jpg',
              data: await image.jpeg({ quality: 88 }).toBuffer(),
              transformation: shown,
              altText: { name: step.title, title: step.title, description: step.title },
            }),
          ],
          spacing: { after: 160 },
        }),
      ]
    }
    return []
  }
}

function headOf({ step, start }: StepSpan, hasTimes: boolean): Paragraph {
  const time = new TextRun({ text: `${clock(secondOf(start), '.').slice(0, 8)}  `, color: '555555', bold: false })
  return new Paragraph({
    heading: HeadingLevel.HEADING_1,
    keepNext: true,
    children: [...(hasTimes ? [time] : []), new TextRun(step.title)],
  })
}

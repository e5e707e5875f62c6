import type { Lesson } from '@/core/lesson/document'
import { READING_PACE } from '@/core/lesson/newParts'
import type { Layer, WordsLayer } from '@/core/lesson/layers'
import type { LayerSpan, Timeline } from '@/core/lesson/timeline'
import { contrastOf } from '@/core/picture/contrast'
import { sizeOfWords } from '@/core/picture/wordSize'
import type { Seconds } from '@/core/units'
import type { Finding } from './finding'

/** What lies over pictures and between them, looked at before delivery. */

/** Letters of this share of the picture's height can be read on a phone. */
const READABLE = 0.026
/** WCAG 2.2, 1.4.3. */
const LEAST_CONTRAST = 4.5
/** So much may stick out: a box may touch the edge. */
const OUTSIDE = 0.01
/** Silence that is left around words where they are cut. */
const AROUND_WORDS: Seconds = 0.25

export function checkOver(lesson: Lesson, timeline: Timeline): Finding[] {
  return [
    ...checkLook(lesson, timeline),
    ...timeline.layers.flatMap((span) => checkLayer(span, timeline)),
    ...checkEdges(timeline),
  ]
}

function checkLook({ look }: Lesson, { layers }: Timeline): Finding[] {
  const ratio = contrastOf(look.ink, look.ground)
  if (ratio >= LEAST_CONTRAST || !layers.some(({ layer }) => layer.kind === 'words')) return []
  const text = `Words over pictures are hard to read: the contrast of their letters and their ground is ${ratio.toFixed(1)} to 1, and should be 4.5. Make the one darker or the other lighter.`
  return [{ severity: 'warning', code: 'low-contrast', text }]
}

function checkLayer({ layer, step, start, end }: LayerSpan, { steps, frame }: Timeline): Finding[] {
  const number = steps.find((span) => span.step === step)!.index + 1
  const about = (code: 'small-words' | 'outside' | 'short-label', text: string): Finding => ({
    severity: 'warning',
    code,
    stepId: step.id,
    at: start,
    subject: layer.id,
    text: `Step ${number}: ${text}`,
  })
  const found: Finding[] = []
  if (layer.kind !== 'closer' && sticksOut(layer))
    found.push(about('outside', 'something over the picture sticks out of it. Move it in, or make it smaller.'))
  if (layer.kind !== 'words' || !layer.text.trim()) return found
  if (sizeOfWords(layer, frame) < READABLE)
    found.push(
      about('small-words', `${quoted(layer)} is too small to be read on a phone. Give it more room, or fewer words.`),
    )
  const needed = 0.5 + READING_PACE * layer.text.split(/\s+/).filter(Boolean).length
  if (end - start < needed - 0.05)
    found.push(
      about(
        'short-label',
        `${quoted(layer)} is seen for ${(end - start).toFixed(1)} s, and takes ${needed.toFixed(1)} s to read. Let it begin earlier or stay longer.`,
      ),
    )
  return found
}

const quoted = ({ text }: WordsLayer) => `“${text.length > 40 ? `${text.slice(0, 39)}…` : text}”`

const sticksOut = ({ area: { x, y, width, height } }: Layer): boolean =>
  x < -OUTSIDE || y < -OUTSIDE || x + width > 1 + OUTSIDE || y + height > 1 + OUTSIDE

/** An edge lies in the silence round a boundary, where there is enough of it. */
function checkEdges({ edges, passages, steps }: Timeline): Finding[] {
  return edges.flatMap(({ start, end, boundary }): Finding[] => {
    const crossed = passages.some((one) => one.start + AROUND_WORDS < end && one.end - AROUND_WORDS > start)
    const before = steps.findLast((span) => span.start < boundary) ?? steps[0]
    if (!crossed || !before) return []
    const text = `Step ${before.index + 1}: words are said while its picture gives way to the next. Make that shorter, or leave a longer tail or lead-in.`
    return [{ severity: 'hint', code: 'edge-over-words', stepId: before.step.id, at: start, text }]
  })
}

import type { Lesson } from '@/core/lesson/document'
import { READING_PACE } from '@/core/lesson/newParts'
import type { Layer, WordsLayer } from '@/core/lesson/layers'
import type { LayerSpan, Timeline } from '@/core/lesson/timeline'
import { contrastOf } from '@/core/picture/contrast'
import { sizeOfWords } from '@/core/picture/wordSize'
import type { Seconds } from '@/core/units'
import { decimal } from '@/messages/numbers'
import { say } from '@/messages/say'
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
  const text = say('findings.lowContrast', { ratio: decimal(ratio, 1) })
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
    text: say('findings.ofStep', { number, what: text }),
  })
  const found: Finding[] = []
  if (layer.kind !== 'closer' && sticksOut(layer)) found.push(about('outside', say('findings.sticksOut')))
  if (layer.kind !== 'words' || !layer.text.trim()) return found
  if (sizeOfWords(layer, frame) < READABLE)
    found.push(about('small-words', say('findings.smallWords', { words: quoted(layer) })))
  const needed = 0.5 + READING_PACE * layer.text.split(/\s+/).filter(Boolean).length
  if (end - start < needed - 0.05)
    found.push(
      about(
        'short-label',
        say('findings.shortLabel', {
          words: quoted(layer),
          seen: decimal(end - start),
          needed: decimal(needed),
        }),
      ),
    )
  return found
}

const quoted = ({ text }: WordsLayer) =>
  say('findings.quoted', { text: text.length > 40 ? `${text.slice(0, 39)}…` : text })

const sticksOut = ({ area: { x, y, width, height } }: Layer): boolean =>
  x < -OUTSIDE || y < -OUTSIDE || x + width > 1 + OUTSIDE || y + height > 1 + OUTSIDE

/** An edge lies in the silence round a boundary, where there is enough of it. */
function checkEdges({ edges, passages, steps }: Timeline): Finding[] {
  return edges.flatMap(({ start, end, boundary }): Finding[] => {
    const crossed = passages.some((one) => one.start + AROUND_WORDS < end && one.end - AROUND_WORDS > start)
    const before = steps.findLast((span) => span.start < boundary) ?? steps[0]
    if (!crossed || !before) return []
    const text = say('findings.edgeOverWords', { number: before.index + 1 })
    return [{ severity: 'hint', code: 'edge-over-words', stepId: before.step.id, at: start, text }]
  })
}

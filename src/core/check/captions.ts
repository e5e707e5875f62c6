import type { Caption } from '@/core/captions/captions'
import { lostCorrections } from '@/core/captions/corrections'
import { withCaptions } from '@/core/captions/overPictures'
import type { Lesson } from '@/core/lesson/document'
import type { Area } from '@/core/lesson/layers'
import type { LayerSpan, Timeline } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import type { Finding } from './finding'

/** Beyond what is asked for by so many letters a second, few can follow. */
const MUCH_TOO_FAST = 4
/** BBC, EBU-TT-D. */
const WIDEST_LINE = 42
const MOST_LINES = 2
const NOTICED: Seconds = 0.3

/** What viewers could not read: one finding a cause, at its first place. */
export function checkCaptions(lesson: Lesson, timeline: Timeline, captions: readonly Caption[]): Finding[] {
  const { captions: look } = lesson.look
  const fast = captions.filter(({ lines, start, end }) => letters(lines) / (end - start) > look.pace + MUCH_TOO_FAST)
  const wide = captions.filter(
    ({ lines }) => lines.length > MOST_LINES || lines.some(({ length }) => length > WIDEST_LINE),
  )
  const lost = lostCorrections(lesson.captionCorrections, lesson.steps, lesson.sounds)
  return [
    ...told(
      fast,
      'fast-captions',
      (what) =>
        `${what} much faster than ${look.pace} letters a second. Leave the voice longer pauses there, or write the captions shorter than what is said.`,
    ),
    ...told(
      wide,
      'wide-captions',
      (what) => `${what} over more than two lines of ${WIDEST_LINE} letters. Part them, or write them shorter.`,
    ),
    ...overWords(lesson, timeline, captions),
    ...(lost.length > 0 ? [lostFinding(lost.length)] : []),
  ]
}

const letters = (lines: readonly string[]) => lines.join(' ').length

function told(
  captions: readonly Caption[],
  code: 'fast-captions' | 'wide-captions',
  say: (what: string) => string,
): Finding[] {
  const [first] = captions
  if (!first) return []
  const what = captions.length === 1 ? 'One caption goes' : `${captions.length} captions go`
  return [{ severity: 'hint', code, stepId: first.step, at: first.start, text: say(what) }]
}

/** In the picture, where they are shown there. */
function overWords(lesson: Lesson, timeline: Timeline, captions: readonly Caption[]): Finding[] {
  const words = timeline.layers.filter(({ layer }) => layer.kind === 'words' && layer.text.trim())
  if (words.length === 0) return []
  const shown = withCaptions({ ...timeline, layers: [] }, captions, lesson.look.captions).layers
  const meet = (a: LayerSpan) => words.find((b) => isAtOnce(a, b) && touch(a.layer.area, b.layer.area))
  const places = shown.filter(meet)
  const [first] = places
  if (!first) return []
  const what = places.length === 1 ? 'A caption lies' : `${places.length} captions lie`
  const text = `${what} over words that are in the picture. Move the one or the other.`
  return [{ severity: 'hint', code: 'captions-over-words', stepId: first.step.id, at: first.start, text }]
}

const isAtOnce = (a: LayerSpan, b: LayerSpan) => Math.min(a.end, b.end) - Math.max(a.start, b.start) >= NOTICED

const touch = (a: Area, b: Area) =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

const lostFinding = (count: number): Finding => ({
  severity: 'hint',
  code: 'lost-captions',
  text: `${count === 1 ? 'One corrected caption had' : `${count} corrected captions had`} words that are no longer said.`,
})

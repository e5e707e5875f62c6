import type { Caption } from '@/core/captions/captions'
import { lostCorrections } from '@/core/captions/corrections'
import { captionRules } from '@/core/captions/lessonCaptions'
import { withCaptions } from '@/core/captions/overPictures'
import { lettersOf, tooShort } from '@/core/captions/rules'
import type { Lesson } from '@/core/lesson/document'
import type { Area } from '@/core/lesson/layers'
import type { LayerSpan, Timeline } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
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
  const short = tooShort(captions, captionRules(lesson, timeline))
  const fast = captions.filter(
    (one) => !short.includes(one) && lettersOf(one) / (one.end - one.start) > look.pace + MUCH_TOO_FAST,
  )
  const wide = captions.filter(
    ({ lines }) => lines.length > MOST_LINES || lines.some(({ length }) => length > WIDEST_LINE),
  )
  const lost = lostCorrections(lesson.captionCorrections, lesson.steps, lesson.sounds)
  return [
    ...finding(short, 'short-captions', (count) => say('findings.shortCaptions', { count })),
    ...finding(fast, 'fast-captions', (count) => say('findings.fastCaptions', { count, pace: look.pace })),
    ...finding(wide, 'wide-captions', (count) => say('findings.wideCaptions', { count, letters: WIDEST_LINE })),
    ...overWords(lesson, timeline, captions),
    ...(lost.length > 0 ? [lostFinding(lost.length)] : []),
  ]
}

function finding(
  captions: readonly Caption[],
  code: 'short-captions' | 'fast-captions' | 'wide-captions',
  told: (count: number) => string,
): Finding[] {
  const [first] = captions
  if (!first) return []
  return [{ severity: 'hint', code, stepId: first.step, at: first.start, text: told(captions.length) }]
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
  const text = say('findings.captionsOverWords', { count: places.length })
  return [{ severity: 'hint', code: 'captions-over-words', stepId: first.step.id, at: first.start, text }]
}

const isAtOnce = (a: LayerSpan, b: LayerSpan) => Math.min(a.end, b.end) - Math.max(a.start, b.start) >= NOTICED

const touch = (a: Area, b: Area) =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

const lostFinding = (count: number): Finding => ({
  severity: 'hint',
  code: 'lost-captions',
  text: say('findings.lostCaptions', { count }),
})

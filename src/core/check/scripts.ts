import type { Lesson } from '@/core/lesson/document'
import { isOutdated } from '@/core/lesson/takes'
import type { Timeline } from '@/core/lesson/timeline'
import { stepWords, type HeardWords } from '@/core/narration/words/stepWords'
import { say } from '@/messages/say'
import type { Finding } from './finding'

/** Fewer words prove nothing; of more, so many at least should be found where they are said. */
const LEAST_WORDS = 6
const FOUND_FROM = 0.4
/** So many words at a script's end that were not found, after others that were: the take breaks off early. */
const MISSING_AT_END = 4

/**
 * Steps that say something else than what is written: their pictures and captions follow a guess. Where the script has
 * changed since, that is another finding.
 */
export function checkScripts(lesson: Lesson, { steps, passages }: Timeline, heard: HeardWords): Finding[] {
  return steps.flatMap(({ step, index, start }): Finding[] => {
    const spans = passages.filter((span) => span.step === step)
    if (spans.length === 0 || isOutdated(lesson, step)) return []
    if (spans.every((span) => heard.wordsOf(span) === null)) return []
    const words = stepWords(spans, step.script, heard).filter(({ text }) => text !== '')
    const found = words.filter(({ confidence }) => confidence !== null)
    if (words.length < LEAST_WORDS) return []
    if (found.length >= words.length * FOUND_FROM) {
      const missing = words.length - 1 - words.findLastIndex(({ confidence }) => confidence !== null)
      if (missing < MISSING_AT_END) return []
      const last = words.slice(-missing).map((word) => word.text)
      const told = say('findings.cutShort', { number: index + 1, missing, words: last.slice(0, 4).join(' ') })
      return [{ severity: 'warning', code: 'cut-short', stepId: step.id, at: start, text: told }]
    }
    const counts = { number: index + 1, found: found.length, words: words.length }
    const text = say('findings.saidOtherwise', counts)
    return [{ severity: 'warning', code: 'said-otherwise', stepId: step.id, at: start, text }]
  })
}

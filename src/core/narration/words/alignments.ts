import type { Lesson, Take } from '@/core/lesson/document'
import type { PassageSpan } from '@/core/lesson/timeline'
import type { JobResult } from '@/core/messages/job'
import type { Analysis } from '@/core/measure/analysis'
import { takeSpeech } from '@/core/measure/takeVoice'
import { alignInputOf, heardIn, type AlignInput } from './heardWords'
import type { HeardWords } from './stepWords'

/** What was found in one take. */
export type Found = JobResult<'align'>
/** What has been found in takes so far, by what was asked; null where it could not be. */
export type Alignments = ReadonlyMap<string, Found | null>

export const alignmentKey = ({ media, from, to, script, language }: AlignInput): string =>
  JSON.stringify([media, from, to, script, language])

export function alignmentOf(lesson: Lesson, take: Take, alignments: Alignments): Found | undefined {
  const input = alignInputOf(lesson, take)
  return (input && alignments.get(alignmentKey(input))) || undefined
}

/** The words of a lesson as far as they were found; where they were not, its phrases. */
export const heardWords = (
  lesson: Lesson,
  alignments: Alignments,
  analyses: ReadonlyMap<string, Analysis>,
): HeardWords => ({
  wordsOf: (span: PassageSpan) => heardIn(lesson, span, (take) => alignmentOf(lesson, take, alignments)?.words),
  speechOf(media) {
    const analysis = analyses.get(media)
    return analysis ? takeSpeech(analysis) : []
  },
})

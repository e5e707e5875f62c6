import type { PassageSpan, Timeline } from '@/core/lesson/timeline'
import { mergeSegments, type SpeechSegment } from '@/core/measure/speech'
import type { HeardWords } from '@/core/narration/words/stepWords'

/**
 * Where somebody speaks, by the words that were found in the takes, so that a mix is not judged by the very stretches it was
 * made for. Where no words are known, and for second voices, it is by `speech`, which was found by the level. In lesson time
 * and in order; stretches don't overlap.
 */
export function saidIn({ passages }: Timeline, heard: HeardWords, speech: readonly SpeechSegment[]): SpeechSegment[] {
  const written: SpeechSegment[] = []
  let rest: readonly SpeechSegment[] = speech
  for (const span of passages) {
    const words = wordsWithin(span, heard)
    if (words.length === 0) continue
    written.push(...words)
    rest = outside(rest, span)
  }
  return mergeSegments([...written, ...rest])
}

function wordsWithin(span: PassageSpan, heard: HeardWords): SpeechSegment[] {
  const inLesson = (time: number) => Math.min(span.end, Math.max(span.start, span.start + time - span.passage.from))
  return (heard.wordsOf(span) ?? [])
    .map((word) => ({ start: inLesson(word.start), end: inLesson(word.end) }))
    .filter(({ start, end }) => end > start)
}

const outside = (segments: readonly SpeechSegment[], { start: from, end: to }: PassageSpan): SpeechSegment[] =>
  segments.flatMap(({ start, end }) =>
    [
      { start, end: Math.min(end, from) },
      { start: Math.max(start, to), end },
    ].filter((part) => part.end > part.start),
  )

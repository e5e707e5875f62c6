import type { Lesson, Take } from '@/core/lesson/document'
import type { PassageSpan } from '@/core/lesson/timeline'
import { takeSpeech } from '@/core/measure/takeVoice'
import type { JobResult, TimedWord } from '@/core/messages/job'
import { alignInputOf, heardIn, takesHeard, type AlignInput } from '@/core/narration/words/heardWords'
import type { HeardWords } from '@/core/narration/words/stepWords'
import type { Assets } from '../store/assets'
import type { MediaStore } from '../store/store'
import { foundInTake, keepFound, wordsOfTake } from './takeWords'

/** The words of the takes that are heard, as far as they were found before. */
export const knownWords = (lesson: Lesson, store: MediaStore, assets: Assets): Promise<HeardWords> =>
  wordsBy(lesson, store, (input) => foundInTake(assets, input))

/** The words of the takes that are heard, or of some of them; what was found before is there at once. */
export async function heardWords(
  lesson: Lesson,
  store: MediaStore,
  assets: Assets,
  { signal, isWanted = () => true }: { signal?: AbortSignal; isWanted?: (take: Take) => boolean } = {},
): Promise<HeardWords> {
  return wordsBy(lesson, store, async (input, take) =>
    isWanted(take) ? wordsOfTake(store, assets, input, { signal }) : null,
  )
}

/** Keeps here what was found elsewhere in the takes that are heard. */
export async function keepFoundWords(lesson: Lesson, from: Assets, to: Assets): Promise<void> {
  for (const take of takesHeard(lesson)) {
    const input = alignInputOf(lesson, take)
    if (input) await keepFound(input, from, to)
  }
}

async function wordsBy(
  lesson: Lesson,
  store: MediaStore,
  find: (input: AlignInput, take: Take) => Promise<JobResult<'align'> | null>,
): Promise<HeardWords> {
  const found = new Map<Take, readonly TimedWord[]>()
  for (const take of takesHeard(lesson)) {
    const input = alignInputOf(lesson, take)
    if (!input || !(await store.has(take.media))) continue
    const result = await find(input, take)
    if (result) found.set(take, result.words)
  }
  const speech = new Map<string, ReturnType<typeof takeSpeech>>()
  for (const { media } of found.keys()) speech.set(media, takeSpeech((await store.analysis(media))!))
  return {
    wordsOf: (span: PassageSpan) => heardIn(lesson, span, (take) => found.get(take)),
    speechOf: (media) => speech.get(media) ?? [],
  }
}

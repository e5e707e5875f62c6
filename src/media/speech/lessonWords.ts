import type { Lesson, Take } from '@/core/lesson/document'
import type { PassageSpan } from '@/core/lesson/timeline'
import { takeSpeech } from '@/core/measure/takeVoice'
import type { TimedWord } from '@/core/messages/job'
import { alignInputOf, heardIn, takesHeard } from '@/core/narration/words/heardWords'
import type { HeardWords } from '@/core/narration/words/stepWords'
import type { Assets } from '../store/assets'
import type { MediaStore } from '../store/store'
import { wordsOfTake } from './takeWords'

/** The words of the takes that are heard, or of some of them; what was found before is there at once. */
export async function heardWords(
  lesson: Lesson,
  store: MediaStore,
  assets: Assets,
  { signal, isWanted = () => true }: { signal?: AbortSignal; isWanted?: (take: Take) => boolean } = {},
): Promise<HeardWords> {
  const found = new Map<Take, readonly TimedWord[]>()
  for (const take of takesHeard(lesson)) {
    const input = alignInputOf(lesson, take)
    if (!input || !isWanted(take) || !(await store.has(take.media))) continue
    found.set(take, (await wordsOfTake(store, assets, input, { signal })).words)
  }
  const speech = new Map<string, ReturnType<typeof takeSpeech>>()
  for (const { media } of found.keys()) speech.set(media, takeSpeech((await store.analysis(media))!))
  return {
    wordsOf: (span: PassageSpan) => heardIn(lesson, span, (take) => found.get(take)),
    speechOf: (media) => speech.get(media) ?? [],
  }
}

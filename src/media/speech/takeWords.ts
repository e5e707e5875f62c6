import type { JobResult, TimedWord } from '@/core/messages/job'
import { jobResultSchemas, JOB_EDITIONS } from '@/core/messages/job'
import type { Alignment } from '@/core/narration/align/alignment'
import { readScript, type Script } from '@/core/narration/words/script'
import type { AlignInput } from '@/core/narration/words/heardWords'
import type { Assets, Recipe } from '../store/assets'
import type { MediaStore } from '../store/store'
import { alignMedia } from './alignment'

interface Options {
  signal?: AbortSignal
  onProgress?: (share: number) => void
}

/**
 * The words of a script in a part of a take, as they were found before or are found now: the page, exports and captions all
 * read the same. Throws a UserError where the script has no words, or no voice speaks the language.
 */
export async function wordsOfTake(
  store: MediaStore,
  assets: Assets,
  input: AlignInput,
  options: Options = {},
): Promise<JobResult<'align'>> {
  const { media, from, to, language } = input
  const recipe: Recipe = {
    kind: 'alignment',
    edition: JOB_EDITIONS.align,
    sources: [media],
    recipe: [from, to, input.script, language],
    extension: 'json',
  }
  const bytes = await assets.bytes(recipe, async () => {
    const script = readScript(input.script)
    return Buffer.from(JSON.stringify(timedWords(script, await alignMedia(store, input, script, language, options))))
  })
  return jobResultSchemas.align.parse(JSON.parse(bytes.toString('utf8')))
}

/** What was found, with the words as they are written and where in the script. */
export function timedWords(script: Script, found: Alignment): JobResult<'align'> {
  const words = found.words.map(({ word, ...times }): TimedWord => {
    const { text, from, to } = script.words[word]!
    return { text, from, to, ...times }
  })
  const skipped = found.sentences.flatMap(({ status, sentence }) => (status === 'skipped' ? [sentence] : []))
  return { words, skipped, extra: found.extra }
}

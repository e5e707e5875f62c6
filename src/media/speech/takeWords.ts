import type { JobResult, TimedWord } from '@/core/messages/job'
import { jobResultSchemas } from '@/core/messages/job'
import { JOB_EDITIONS } from '@/core/messages/jobInput'
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
  const bytes = await assets.bytes(recipeOf(input), async () => {
    const script = readScript(input.script)
    const found = await alignMedia(store, input, script, input.language, options)
    return Buffer.from(JSON.stringify(timedWords(script, found)))
  })
  return readFound(bytes)
}

/** What was found before; null where nobody has looked yet. */
export async function foundInTake(assets: Assets, input: AlignInput): Promise<JobResult<'align'> | null> {
  const bytes = await assets.find(recipeOf(input))
  return bytes && readFound(bytes)
}

/** Keeps here what was found in a take elsewhere, where anything was. */
export async function keepFound(input: AlignInput, from: Assets, to: Assets): Promise<void> {
  const bytes = await from.find(recipeOf(input))
  if (bytes) await to.bytes(recipeOf(input), async () => bytes)
}

const recipeOf = ({ media, from, to, script, language }: AlignInput): Recipe => ({
  kind: 'alignment',
  edition: JOB_EDITIONS.align,
  sources: [media],
  recipe: [from, to, script, language],
  extension: 'json',
})

const readFound = (bytes: Buffer) => jobResultSchemas.align.parse(JSON.parse(bytes.toString('utf8')))

/** What was found, with the words as they are written and where in the script. */
export function timedWords(script: Script, found: Alignment): JobResult<'align'> {
  const words = found.words.map(({ word, ...times }): TimedWord => {
    const { text, from, to } = script.words[word]!
    return { text, from, to, ...times }
  })
  const skipped = found.sentences.flatMap(({ status, sentence }) => (status === 'skipped' ? [sentence] : []))
  return { words, skipped, extra: found.extra }
}

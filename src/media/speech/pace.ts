import { DEFAULT_READING, sentencesToSay, type ReadingSettings } from '@/core/narration/speechVoice'
import { readScript, type Script } from '@/core/narration/words/script'
import { clamp, type Seconds } from '@/core/units'
import type { Assets } from '../store/assets'
import { saySentences } from './sentences'
import { engineOf, languageOf } from './voices'

/** Fewer words are no text to count by. */
const FEWEST_WORDS = 30
/** So many tell how fast a text comes out. */
const ENOUGH_WORDS = 400
/** Of texts with very short or very long words a voice neither drawls nor rushes. */
const SLOWEST = 0.65
const FASTEST = 1.4
/** In such steps, so that after a small change of the text what was said before can be used again. */
const STEP = 0.02

/**
 * The rate that an engine is told so that a text comes out at the words a minute that are set, with the usual pauses
 * between its sentences. An engine's own count is of words of some usual length; spoken language has shorter ones.
 */
export async function pacedRate(
  text: string,
  settings: ReadingSettings,
  assets: Assets,
  signal?: AbortSignal,
): Promise<number> {
  const { engine } = await engineOf(settings.voice)
  const script = beginningOf(readScript(text))
  const count = script.words.length
  if (!engine.keepsRate || count < FEWEST_WORDS) return settings.rate
  const said = await saySentences(sentencesToSay(script, [], await languageOf(settings.voice)), settings, assets, {
    signal,
  })
  const spoken = said.reduce((sum: Seconds, { samples, rate }) => sum + samples.length / rate, 0)
  const wanted = (60 * count) / settings.rate - (said.length - 1) * DEFAULT_READING.pause
  const factor = wanted > 0 ? spoken / wanted : FASTEST
  return settings.rate * clamp(Math.round(factor / STEP) * STEP, SLOWEST, FASTEST)
}

/** As many whole sentences as have enough words. */
function beginningOf({ words, sentences }: Script): Script {
  const some = sentences.filter(({ firstWord }) => firstWord < ENOUGH_WORDS)
  return { sentences: some, words: words.slice(0, (some.at(-1)?.lastWord ?? -1) + 1) }
}

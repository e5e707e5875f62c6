import type { ReadingSettings, SentenceToSay } from '@/core/narration/speechVoice'
import { bytesOf } from '@/media/ffmpeg'
import type { Assets, Recipe } from '../store/assets'
import type { SpokenSentence } from './engine'
import { engineOf } from './voices'

/** Raised when an engine's way of saying things changes, so that sentences said before are not used again. */
const EDITION = 2
/** Sound of an engine below this is the silence around its words. */
const AUDIBLE = 0.003

/** Says what was not said yet, all of it in one run of the engine; without the silence around each sentence. */
export async function saySentences(
  sentences: readonly SentenceToSay[],
  settings: ReadingSettings,
  assets: Assets,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<SpokenSentence[]> {
  const { engine, voice } = await engineOf(settings.voice)
  const { rate, pitch } = settings
  const recipeOf = (sentence: SentenceToSay): Recipe => ({
    kind: 'speech',
    edition: EDITION,
    sources: [],
    recipe: [engine.name, voice, rate, pitch, sentence],
    extension: 'speech',
  })
  const kept = await assets.all(sentences.map(recipeOf), async (missing, keep) => {
    let done = 0
    const texts = missing.map((i) => sentences[i]!)
    await engine.say(
      texts,
      { ...settings, voice },
      async (spoken) => {
        await keep(missing[done++]!, packed(spoken))
        onProgress?.(done / missing.length)
      },
      signal,
    )
  })
  return kept.map((one) => trimmed(unpacked(one)))
}

function packed({ rate, samples, starts }: SpokenSentence): Buffer {
  return Buffer.concat([Buffer.from(`${JSON.stringify({ rate, starts })}\n`), bytesOf(samples)])
}

function unpacked(bytes: Buffer): SpokenSentence {
  const end = bytes.indexOf(10) + 1
  const head = JSON.parse(bytes.subarray(0, end).toString('utf8')) as Pick<SpokenSentence, 'rate' | 'starts'>
  return {
    ...head,
    samples: new Float32Array(bytes.buffer.slice(bytes.byteOffset + end, bytes.byteOffset + bytes.length)),
  }
}

/** Takes the silence off both ends; a word that began in it begins with the sound. */
function trimmed({ rate, samples, starts }: SpokenSentence): SpokenSentence {
  const audible = (value: number) => Math.abs(value) > AUDIBLE
  const from = Math.max(0, samples.findIndex(audible))
  const cut = samples.slice(from, samples.findLastIndex(audible) + 1)
  return {
    rate,
    samples: cut,
    starts: starts?.map((start) => Math.min(cut.length / rate, Math.max(0, start - from / rate))) ?? null,
  }
}

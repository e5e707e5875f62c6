import { takeLoudness, takeSpeech } from '@/core/measure/takeVoice'
import type { Take } from '@/core/lesson/document'
import type { Analysis } from '@/core/measure/analysis'
import { HOP } from '@/core/measure/energyMeter'
import { roomNoise } from '@/core/measure/quiet'
import { spokenTime } from '@/core/measure/speech'
import type { Decibels, Lufs, Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { GOOD_LEVEL } from './inputLevel'
import { readScript } from './words/script'

/** What is worth knowing of a take when one chooses. */
export interface TakeReport {
  length: Seconds
  loudness: Lufs | null
  noise: Decibels | null
  /** Words of the script by the time spoken; null without a script. */
  wordsPerMinute: number | null
  faults: string[]
}

const NOISY: Decibels = 24

/** Of the part of the file that is the take. */
export function reportTake({ from, to, script }: Take, analysis: Analysis): TakeReport {
  const speech = takeSpeech(analysis).filter(({ start, end }) => end > from && start < to)
  const spoken = spokenTime(speech)
  const words = readScript(script).words.length
  const [loudness, noise] = [takeLoudness(analysis), roomNoise(analysis)]
  const clips = analysis.clips.filter((clip) => clip * HOP >= from && clip * HOP < to).length
  const faults: string[] = []
  if (clips > 0) faults.push(say('narration.clipped', { clips }))
  if (speech.length === 0) faults.push(say('narration.nobodySpeaks'))
  else if (loudness !== null && loudness < GOOD_LEVEL.low) faults.push(say('narration.veryQuiet'))
  if (loudness !== null && noise !== null && loudness - noise < NOISY) faults.push(say('narration.noisy'))
  return {
    length: to - from,
    loudness,
    noise,
    wordsPerMinute: words > 0 && spoken > 0 ? (words / spoken) * 60 : null,
    faults,
  }
}

import type { JobResult } from '@/core/messages/job'
import { readScript } from '@/core/narration/words/script'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'

/** How much of a script was found in a recording, and how much of the recording says something else. */
export interface ReadingFit {
  sentences: number
  said: number
  besides: Seconds
}

export function readingFit(script: string, { skipped, extra }: JobResult<'align'>): ReadingFit {
  const sentences = readScript(script).sentences.length
  const besides = extra.reduce((sum, { kind, start, end }) => sum + (kind === 'ad-lib' ? end - start : 0), 0)
  return { sentences, said: sentences - skipped.length, besides }
}

/** Of less than half of it one can't say that it is read here. */
const FITS_FROM = 0.5

/** What an author should know before a recording is laid over this script; null where it fits. */
export function misfit({ sentences, said, besides }: ReadingFit): string | null {
  if (said >= sentences * FITS_FROM) return null
  return say('narration.misfit', { said, sentences, besides: Math.round(besides) })
}

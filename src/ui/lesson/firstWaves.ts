import type { Lesson } from '@/core/lesson/document'
import { mediaInUse } from '@/core/lesson/usedMedia'
import type { Analysis } from '@/core/measure/analysis'
import type { MediaInfo } from '@/core/messages/media'
import { fetchAnalysis } from '../arrival'

/** A lesson is drawn with its words and waves at once where they are here within this time, and without them otherwise. */
const WAIT = 200 // ms

/** What of a lesson's sounds comes at once; the rest is asked for while it is being worked on. */
export async function firstWaves(lesson: Lesson, media: readonly MediaInfo[]): Promise<ReadonlyMap<string, Analysis>> {
  const used = mediaInUse(lesson)
  const sounds = media.filter(({ hash, channels }) => channels && used.has(hash))
  const found = new Map<string, Analysis>()
  const all = sounds.map(({ hash }) => fetchAnalysis(hash).then((analysis) => found.set(hash, analysis)))
  await Promise.race([Promise.allSettled(all), new Promise((resolve) => setTimeout(resolve, WAIT))])
  return new Map(found)
}

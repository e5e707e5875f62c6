import { mediaOf, type Lesson } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/lesson/media'
import { cleaningOf, voicesOf, withCleaned } from '@/core/lesson/takes'
import type { Analysis } from '@/core/measure/analysis'
import type { AnalysisOf } from '@/core/mix/plan'
import { cleanMedia } from './cleaning'
import type { MediaStore } from './store'

/** The lesson with its voices cleaned as it says; what was cleaned before is not cleaned again. */
export async function cleanVoices(
  lesson: Lesson,
  store: MediaStore,
  { signal }: { signal?: AbortSignal } = {},
): Promise<Lesson> {
  const cleaned = new Map<string, string>()
  for (const media of voicesOf(lesson)) {
    const cleaning = cleaningOf(lesson, media)
    if (!cleaning || !(await store.has(media))) continue
    const room = cleaning.room && (await store.has(cleaning.room)) ? { media: cleaning.room } : null
    cleaned.set(media, await cleanMedia(store, media, cleaning.cleanUp, room, { signal }))
  }
  return withCleaned(lesson, (media) => cleaned.get(media))
}

/** Analyses of everything that sounds in a lesson, in memory. Files that are missing are left out. */
export async function loadAnalyses(lesson: Lesson, store: MediaStore): Promise<AnalysisOf> {
  const analyses = new Map<string, Analysis>()
  for (const hash of mediaOf(lesson)) {
    const analysis = (await store.has(hash)) ? await store.analysis(hash) : null
    if (analysis) analyses.set(hash, analysis)
  }
  return (hash) => analyses.get(hash)
}

export async function loadInfos(lesson: Lesson, store: MediaStore): Promise<(hash: string) => MediaInfo | undefined> {
  const infos = new Map<string, MediaInfo>()
  for (const hash of mediaOf(lesson)) {
    if (await store.has(hash)) infos.set(hash, await store.info(hash))
  }
  return (hash) => infos.get(hash)
}

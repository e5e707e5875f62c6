import { mediaOf, type Lesson } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/lesson/media'
import type { Analysis } from '@/core/measure/analysis'
import type { AnalysisOf } from '@/core/mix/plan'
import type { MediaStore } from './store'

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

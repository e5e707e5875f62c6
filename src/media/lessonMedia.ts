import type { Lesson, Picture } from '@/core/lesson/document'
import { mediaInUse, mediaOf, picturesOfStep } from '@/core/lesson/usedMedia'
import { partsBetweenCuts } from '@/core/picture/motion'
import type { MediaInfo } from '@/core/messages/media'
import type { SoundOf } from '@/core/lesson/sounding'
import { cleaningOf, voicesOf } from '@/core/lesson/takes'
import type { Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import type { Analysis } from '@/core/measure/analysis'
import type { AnalysisOf } from '@/core/mix/mixPlan'
import { listed } from '@/messages/numbers'
import { say } from '@/messages/say'
import { cleanMedia } from './cleaning'
import type { MediaStore } from './store/store'

/** By what a lesson's takes are heard, and the analyses of all that sounds in it. */
export interface LessonSounds {
  soundOf: SoundOf
  analysisOf: AnalysisOf
}

/** Cleans the voices of a lesson as it says; what was cleaned before is not cleaned again. Files that are missing are left out. */
export async function soundsOf(
  lesson: Lesson,
  store: MediaStore,
  { signal }: { signal?: AbortSignal } = {},
): Promise<LessonSounds> {
  const cleaned = await cleanVoices(lesson, store, signal)
  const analyses = new Map<string, Analysis>()
  for (const hash of [...mediaOf(lesson), ...cleaned.values()]) {
    const analysis = (await store.has(hash)) ? await store.analysis(hash) : null
    if (analysis) analyses.set(hash, analysis)
  }
  return { soundOf: (take) => cleaned.get(take) ?? take, analysisOf: (hash) => analyses.get(hash) }
}

async function cleanVoices(lesson: Lesson, store: MediaStore, signal?: AbortSignal): Promise<Map<string, string>> {
  const cleaned = new Map<string, string>()
  for (const media of voicesOf(lesson)) {
    const cleaning = cleaningOf(lesson, media)
    if (!cleaning || !(await store.has(media))) continue
    const room = cleaning.room && (await store.has(cleaning.room)) ? { media: cleaning.room } : null
    cleaned.set(media, await cleanMedia(store, media, cleaning.cleanUp, room, { signal }))
  }
  return cleaned
}

/** Throws a UserError that says what keeps a lesson from being made as it is: nothing is made with holes in it. */
export async function assertCanBeMade(lesson: Lesson, store: MediaStore): Promise<void> {
  const infoOf = await loadInfos(lesson, store)
  const missing = [...mediaInUse(lesson)].filter((hash) => !infoOf(hash)).map((hash) => titleOf(lesson, hash))
  if (missing.length > 0)
    throw new UserError(
      say('imports.filesMissing', { names: listed(missing.slice(0, 5)), more: Math.max(0, missing.length - 5) }),
    )
  lesson.steps.forEach((step, index) => {
    for (const picture of picturesOfStep(step)) {
      const obstacle = obstacleIn(picture, infoOf, 1 / lesson.frame.rate)
      if (obstacle) throw new UserError(say('findings.ofStep', { number: index + 1, what: obstacle }))
    }
  })
}

function obstacleIn(
  picture: Picture,
  infoOf: (hash: string) => MediaInfo | undefined,
  shortest: Seconds,
): string | null {
  if (picture.kind === 'recording' && partsBetweenCuts(picture).every(({ from, to }) => to - from < shortest))
    return say('imports.allCutOut')
  const pages = picture.kind === 'still' ? (infoOf(picture.media)?.pages.length ?? 0) : Infinity
  return picture.kind === 'still' && picture.page > pages
    ? say('imports.itShowsPageOf', { page: picture.page, pages })
    : null
}

const titleOf = (lesson: Lesson, hash: string) =>
  lesson.shelf.find(({ media }) => media === hash)?.title ??
  lesson.takes.find(({ media }) => media === hash)?.name ??
  'a take'

/** What is known of a lesson's files; those that are missing are left out. */
export async function infosOf(lesson: Lesson, store: MediaStore): Promise<MediaInfo[]> {
  const there = await Promise.all(
    [...mediaOf(lesson)].map(async (hash) => ((await store.has(hash)) ? [await store.info(hash)] : [])),
  )
  return there.flat()
}

export async function loadInfos(lesson: Lesson, store: MediaStore): Promise<(hash: string) => MediaInfo | undefined> {
  const infos = new Map((await infosOf(lesson, store)).map((info) => [info.hash, info]))
  return (hash) => infos.get(hash)
}

import { takeSpeech } from '@/core/measure/takeVoice'
import { nanoid } from 'nanoid'
import { z } from 'zod'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson } from '@/core/lesson/newParts'
import { MADE_LICENCE } from '@/core/compose/wish'
import { LIMITS } from '@/core/lesson/limits'
import { usualTargets } from '@/core/course/courseTargets'
import { withEnds } from '@/core/course/sharedSteps'
import { firstLesson } from '@/core/lesson/firstLesson'
import { jobResultSchemas } from '@/core/messages/job'
import type { Analysis } from '@/core/measure/analysis'
import { nearestLanguage } from '@/core/narration/words/language'
import type { ReadingSettings } from '@/core/narration/speechVoice'
import { listVoices } from '@/media/speech/voices'
import { UserError } from '@/core/userError'
import { courseOrFirst } from '@/db/courses'
import { courseEnds } from '@/db/courseEnds'
import { courseStyle } from '@/db/courseStyles'
import { createLesson } from '@/db/lessons'
import { summaries } from '@/db/summaries'
import { mediaStore } from '@/jobs/places'
import { say } from '@/messages/say'
import { LESSON_BODY, readJson, route } from '../answer'

const hash = z.string().regex(/^[0-9a-f]{64}$/)
const languageSchema = z.string().regex(/^[A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8}){0,2}$/)

const bodySchema = z.object({
  course: z.string().nullable(),
  title: z.string().trim().min(1).max(LIMITS.nameCharacters),
  pictures: z.array(hash).max(LIMITS.items.shelf),
  voices: z.array(hash).max(LIMITS.items.shelf),
  music: z.array(hash).max(LIMITS.items.shelf),
  script: z.string().max(LIMITS.lessonCharacters).optional(),
  language: languageSchema.optional(),
  found: jobResultSchemas.align.optional(),
  withHidden: z.boolean().optional(),
  /** Music that was made for it. */
  made: z.array(hash).max(10).default([]),
  standIns: z
    .array(z.object({ script: z.string().max(LIMITS.scriptCharacters), media: hash }))
    .max(LIMITS.items.steps)
    .optional(),
})

/** A new lesson, from what was dropped or from nothing. */
export const POST = route(async (request) => {
  const {
    course,
    pictures,
    voices,
    music,
    made: composed,
    standIns,
    language,
    ...told
  } = await readJson(request, bodySchema, LESSON_BODY)
  const store = mediaStore()
  const infos = (hashes: string[]) => Promise.all(hashes.map((hash) => store.info(hash)))
  const material = {
    ...told,
    pictures: await infos(pictures),
    music: await infos(music),
    voices: await Promise.all(
      voices.map(async (hash) => ({
        media: await store.info(hash),
        speech: speechOf(await store.analysis(hash)),
      })),
    ),
    standIns: await Promise.all(
      (standIns ?? []).map(async ({ script, media }) => ({ script, media: await store.info(media) })),
    ),
  }
  const isEmpty = pictures.length + voices.length + music.length === 0
  const lesson = isEmpty ? emptyLesson(told.title) : firstLesson(material, () => nanoid(10))
  const home = await courseOrFirst(course)
  const others = (await summaries(home)).flatMap(({ summary }) => summary?.targets ?? [])
  // A new lesson is to sound as the others of its course do.
  const targets = { ...lesson.targets, ...usualTargets(others) }
  const shelf = lesson.shelf.map((item) => (composed.includes(item.media) ? { ...item, ...MADE_LICENCE } : item))
  const spoken = language && (await spokenIn(language, lesson.reading))
  const made = { ...lesson, shelf, targets, ...spoken, ...(await courseStyle(home)) }
  return Response.json({ id: await createLesson(home, withEnds(made, await courseEnds(home))) })
})

/** The language, and a voice that reads it. */
async function spokenIn(
  wanted: string,
  reading: ReadingSettings,
): Promise<Pick<Lesson, 'language' | 'mainLanguage' | 'reading'>> {
  const voices = await listVoices()
  const language = nearestLanguage(
    wanted,
    voices.map((voice) => voice.language),
  )
  const voice = voices.find((one) => one.language === language)
  return {
    language,
    mainLanguage: language,
    reading: voice && language !== 'en-gb' ? { ...reading, voice: voice.id } : reading,
  }
}

function speechOf(analysis: Analysis | null) {
  if (!analysis) throw new UserError(say('server.fileWithoutSound'))
  return takeSpeech(analysis)
}

import { nanoid } from 'nanoid'
import { z } from 'zod'
import { emptyLesson } from '@/core/lesson/document'
import { usualTargets } from '@/core/lesson/courseBalance'
import { firstLesson } from '@/core/lesson/firstLesson'
import { taskResultSchemas } from '@/core/lesson/task'
import { takeSpeech } from '@/core/mix/voiceClips'
import { courseOrFirst } from '@/db/courses'
import { createLesson, lessonsOfCourse } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { readJson, route } from '../answer'

const bodySchema = z.object({
  course: z.string().nullable(),
  title: z.string().trim().min(1).max(200),
  pictures: z.array(z.string()),
  voices: z.array(z.string()),
  music: z.array(z.string()),
  script: z.string().max(500_000).optional(),
  found: taskResultSchemas.align.optional(),
})

/** A new lesson, from what was dropped or from nothing. */
export const POST = route(async (request) => {
  const { course, title, pictures, voices, music, script, found } = await readJson(request, bodySchema)
  const store = mediaStore()
  const infos = (hashes: string[]) => Promise.all(hashes.map((hash) => store.info(hash)))
  const material = {
    title,
    script,
    found,
    pictures: await infos(pictures),
    music: await infos(music),
    voices: await Promise.all(
      voices.map(async (hash) => ({
        media: await store.info(hash),
        speech: takeSpeech((await store.analysis(hash))!),
      })),
    ),
  }
  const isEmpty = pictures.length + voices.length + music.length === 0
  const lesson = isEmpty ? emptyLesson(title) : firstLesson(material, () => nanoid(10))
  const home = await courseOrFirst(course)
  const others = await lessonsOfCourse(home)
  // A new lesson is to sound as the others of its course do.
  const targets = { ...lesson.targets, ...usualTargets(others.map((one) => one.lesson.targets)) }
  return Response.json({ id: await createLesson(home, { ...lesson, targets }) })
})

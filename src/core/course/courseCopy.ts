import { z } from 'zod'
import { LIMITS } from '@/core/lesson/limits'
import { pronunciationSchema, type Pronunciation } from '@/core/narration/speechVoice'
import { readCourseStyle, type CourseStyle } from './courseStyle'

/** What a saved copy of a course says of the course itself; its lessons stand beside it. */
export interface CourseHead {
  title: string
  pronunciations: Pronunciation[]
  /** Null: nobody has said how its lessons look. */
  style: CourseStyle | null
}

const headSchema = z.object({
  format: z.literal(1),
  title: z.string().trim().min(1).max(LIMITS.nameCharacters),
  pronunciations: z.array(pronunciationSchema).max(10_000),
  style: z.unknown(),
})

export const writeCourseHead = (head: CourseHead): object => ({ format: 1, ...head })

/** Throws a ZodError where it is none, or of a later program. */
export function readCourseHead(json: unknown): CourseHead {
  const { title, pronunciations, style } = headSchema.parse(json)
  return { title, pronunciations, style: style ? readCourseStyle(style) : null }
}

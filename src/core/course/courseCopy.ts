import { z } from 'zod'
import { LIMITS } from '@/core/lesson/limits'
import { pronunciationSchema, type Pronunciation } from '@/core/narration/speechVoice'
import { readCourseStyle, type CourseStyle } from './courseStyle'
import { deliverySchema, type Delivery } from './delivery'
import { endsDocument, readEnds } from './endsDocument'
import { NO_ENDS, type CourseEnds } from './sharedSteps'

/** What a saved copy of a course says of the course itself; its lessons stand beside it. */
export interface CourseHead {
  title: string
  pronunciations: Pronunciation[]
  /** Null: nobody has said how its lessons look. */
  style: CourseStyle | null
  /** The steps its lessons begin and end with. */
  ends: CourseEnds
  /** What is made of each lesson. */
  delivery: Delivery
}

const headSchema = z.object({
  format: z.literal(1),
  title: z.string().trim().min(1).max(LIMITS.nameCharacters),
  pronunciations: z.array(pronunciationSchema).max(10_000),
  style: z.unknown(),
  /** Copies of before there were any say nothing of them. */
  ends: z.object({ first: z.unknown(), last: z.unknown() }).nullish(),
  delivery: deliverySchema.catch([]),
})

export const writeCourseHead = (head: CourseHead): object => ({ format: 1, ...head, ends: endsDocument(head.ends) })

/** Throws a ZodError where it is none, or of a later program. */
export function readCourseHead(json: unknown): CourseHead {
  const { style, ends, format: _, ...head } = headSchema.parse(json)
  return { ...head, style: style ? readCourseStyle(style) : null, ends: ends ? readEnds(ends) : NO_ENDS }
}

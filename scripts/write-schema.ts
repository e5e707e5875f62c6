import { z } from 'zod'
import { lessonSchema } from '@/core/lesson/document'

/** Prints the lesson document's JSON Schema. */
console.log(JSON.stringify(z.toJSONSchema(lessonSchema), null, 2))

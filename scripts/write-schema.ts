import { z } from 'zod'
import { documentSchema } from '@/core/lesson/document'

/** Prints the lesson document's JSON Schema. */
console.log(JSON.stringify(z.toJSONSchema(documentSchema), null, 2))

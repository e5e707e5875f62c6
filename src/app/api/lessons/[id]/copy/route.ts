import { duplicateLesson } from '@/db/lessons'
import { route } from '../../../answer'

/** Another lesson just like this one. */
export const POST = route<{ id: string }>(async (_request, { id }) => Response.json({ id: await duplicateLesson(id) }))

import { spaceOfCourses } from '@/db/assets'
import { route } from '../../answer'

export const dynamic = 'force-dynamic'

/** How much room each course takes, by its id. */
export const GET = route(async () => Response.json(await spaceOfCourses()))

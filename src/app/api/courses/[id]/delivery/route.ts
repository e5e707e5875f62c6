import { deliveryChangeSchema } from '@/core/course/delivery'
import { changeDelivery, courseDelivery } from '@/db/courses'
import { readJson, route } from '../../../answer'

/** What is made of each lesson of the course. */
export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await courseDelivery(id)))

export const PATCH = route<{ id: string }>(async (request, { id }) =>
  Response.json(await changeDelivery(id, await readJson(request, deliveryChangeSchema))),
)

import { deliverySchema } from '@/core/course/delivery'
import { courseDelivery, setCourseDelivery } from '@/db/courses'
import { readJson, route } from '../../../answer'

/** What is made of each lesson of the course. */
export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await courseDelivery(id)))

export const PUT = route<{ id: string }>(async (request, { id }) => {
  const delivery = await readJson(request, deliverySchema)
  await setCourseDelivery(id, delivery)
  return Response.json(delivery)
})

import { z } from 'zod'
import { OUTPUT_NAMES } from '@/core/delivery/outputs'

/** What is made of each lesson of a course; empty: nobody has said so. */
export const deliverySchema = z.array(z.enum(OUTPUT_NAMES)).max(OUTPUT_NAMES.length)
export type Delivery = z.infer<typeof deliverySchema>

/** What somebody adds and takes out: whoever else does so at the same time is not undone by it. */
export const deliveryChangeSchema = z.object({ added: deliverySchema, removed: deliverySchema })
export type DeliveryChange = z.infer<typeof deliveryChangeSchema>

export const deliveryChange = (before: Delivery, after: Delivery): DeliveryChange => ({
  added: after.filter((name) => !before.includes(name)),
  removed: before.filter((name) => !after.includes(name)),
})

export const changedDelivery = (now: Delivery, { added, removed }: DeliveryChange): Delivery =>
  OUTPUT_NAMES.filter((name) => added.includes(name) || (now.includes(name) && !removed.includes(name)))

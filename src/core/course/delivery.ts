import { z } from 'zod'
import { OUTPUT_NAMES } from '@/core/delivery/outputs'

/** What is made of each lesson of a course; empty: nobody has said so. */
export const deliverySchema = z.array(z.enum(OUTPUT_NAMES)).max(OUTPUT_NAMES.length)
export type Delivery = z.infer<typeof deliverySchema>

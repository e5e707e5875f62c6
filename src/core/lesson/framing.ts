import { z } from 'zod'
import { colourSchema } from './layers'

/** The shape of a lesson's video, and how pictures of another shape stand in it. */

export const FRAME_SHAPES = ['16:9', '4:3', '1:1', '9:16'] as const
/** Of the shorter side. */
export const FRAME_LINES = [720, 1080, 1440, 2160] as const
/** Pictures a second. */
export const FRAME_RATES = [25, 30, 50, 60] as const

export const frameSchema = z.object({
  shape: z.enum(FRAME_SHAPES),
  lines: z.literal([...FRAME_LINES]),
  rate: z.literal([...FRAME_RATES]),
})

export const FRAMING_WAYS = ['whole', 'fill'] as const
export const framingSchema = z.object({
  /** Whether all of a picture is seen with a ground round it, or so much of it as fills the frame. */
  way: z.enum(FRAMING_WAYS),
  /** What is seen round it: plain, as light or dark as the picture is at its edges; the picture itself, blurred; or a colour. */
  ground: z.union([z.enum(['plain', 'blurred']), colourSchema]),
  /** Which part is seen where not all is, and where the picture stands where there is ground: 0 for left or top, 1 for right or bottom. */
  middle: z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }),
})

export type FrameSettings = z.infer<typeof frameSchema>
export type FrameShape = FrameSettings['shape']
export type Framing = z.infer<typeof framingSchema>

export const USUAL_FRAME: FrameSettings = { shape: '16:9', lines: 1080, rate: 30 }
export const USUAL_FRAMING: Framing = { way: 'whole', ground: 'plain', middle: { x: 0.5, y: 0.5 } }

import { z } from 'zod'
import { FRAME_SHAPES, USUAL_FRAME } from '@/core/lesson/framing'
import { layerSchema, lookSchema } from '@/core/lesson/layers'
import { frameOf } from '@/core/picture/frame'
import { parseStorableJson } from '@/core/text'
import { UserError } from '@/core/userError'
import { drawLayer } from '@/media/video/overlay'
import { say } from '@/messages/say'
import { readQuery, route } from '../answer'

/** JSON in a part of a query. */
const json = z.string().transform((text, context) => {
  try {
    return parseStorableJson(text)
  } catch {
    context.addIssue({ code: 'custom', message: 'no JSON' })
    return z.NEVER
  }
})
const asked = z.object({ layer: json.pipe(layerSchema), look: json.pipe(lookSchema), shape: z.enum(FRAME_SHAPES) })

/** What lies over a picture, drawn as the finished video has it: `?layer=…&look=…&shape=16:9`, the first two as JSON. */
export const GET = route(async (request) => {
  const { layer, look, shape } = readQuery(request, asked)
  if (layer.kind === 'closer') throw new UserError(say('server.closerLookNotDrawn'))
  return new Response(await drawLayer(layer, look, layer.area, frameOf({ ...USUAL_FRAME, shape })), {
    headers: { 'content-type': 'image/svg+xml', 'cache-control': 'public, max-age=86400' },
  })
})

import { z } from 'zod'
import { layerSchema, lookSchema } from '@/core/lesson/layers'
import { storableText } from '@/core/text'
import { UserError } from '@/core/userError'
import { drawLayer } from '@/media/video/overlay'
import { route } from '../answer'

const asked = z.object({ layer: layerSchema, look: lookSchema })

/** What lies over a picture, drawn as the finished video has it: `?layer=…&look=…`, both as JSON. */
export const GET = route(async (request) => {
  const { searchParams } = new URL(request.url)
  const json = (name: string): unknown => JSON.parse(storableText(searchParams.get(name) ?? 'null'))
  const { layer, look } = asked.parse({ layer: json('layer'), look: json('look') })
  if (layer.kind === 'closer') throw new UserError('A closer look is nothing that could be drawn by itself.')
  return new Response(await drawLayer(layer, look, layer.area), {
    headers: { 'content-type': 'image/svg+xml', 'cache-control': 'public, max-age=86400' },
  })
})

import { z } from 'zod'
import { FRAME_SHAPES, USUAL_FRAME } from '@/core/lesson/framing'
import { LIMITS } from '@/core/lesson/limits'
import { frameOf } from '@/core/picture/frame'
import { cutText, storableText } from '@/core/text'
import { drawCard } from '@/media/video/card'
import { route } from '../answer'

/** A card's picture: `?line=Title&line=Second+line&shape=16:9`. */
export const GET = route(async (request) => {
  const { searchParams } = new URL(request.url)
  const shape = z.enum(FRAME_SHAPES).catch(USUAL_FRAME.shape).parse(searchParams.get('shape'))
  const lines = searchParams
    .getAll('line')
    .slice(0, 6)
    .map((line) => cutText(storableText(line), LIMITS.lineCharacters))
  return new Response(await drawCard(lines, frameOf({ ...USUAL_FRAME, shape })), {
    headers: { 'content-type': 'image/svg+xml', 'cache-control': 'public, max-age=86400' },
  })
})

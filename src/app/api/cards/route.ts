import { LIMITS } from '@/core/lesson/limits'
import { cutText, storableText } from '@/core/text'
import { drawCard } from '@/media/video/card'
import { route } from '../answer'

/** A card's picture: `?line=Title&line=Second+line`. */
export const GET = route(async (request) => {
  const lines = new URL(request.url).searchParams
    .getAll('line')
    .slice(0, 6)
    .map((line) => cutText(storableText(line), LIMITS.lineCharacters))
  return new Response(await drawCard(lines), {
    headers: { 'content-type': 'image/svg+xml', 'cache-control': 'public, max-age=86400' },
  })
})

import { wishSchema } from '@/core/compose/wish'
import { playWish } from '@/media/instruments'
import { route } from '../../answer'
import { wishOf } from '../wishOf'

/** Fifteen seconds of a piece, to be listened to before it is made: `?wish=…` as JSON. */
export const GET = route(async (request) => {
  const wish = wishSchema.parse(wishOf(request))
  const wav = await playWish({ ...wish, length: Math.min(15, wish.length) })
  return new Response(Uint8Array.from(wav), { headers: { 'Content-Type': 'audio/wav' } })
})

import { newestOf } from '@/jobs/newestOf'
import { playWish } from '@/media/instruments'
import { say } from '@/messages/say'
import { route } from '../../answer'
import { wishOf } from '../wishOf'

/** Whoever listens to wishes one after the other wants to hear the last one. */
const previews = newestOf(2, () => say('server.anotherPiece'))

/** Fifteen seconds of a piece, to be listened to before it is made: `?wish=…` as JSON. */
export const GET = route(async (request) => {
  const wish = wishOf(request)
  const wav = await previews(
    (signal) => playWish({ ...wish, length: Math.min(15, wish.length) }, undefined, signal),
    request.signal,
  )
  return new Response(Uint8Array.from(wav), { headers: { 'Content-Type': 'audio/wav' } })
})

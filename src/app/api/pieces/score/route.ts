import { compose } from '@/core/compose/compose'
import { writeScore } from '@/core/formats/midi'
import { route } from '../../answer'
import { downloadHeaders } from '../../download'
import { wishOf } from '../wishOf'

/** A piece as a Standard MIDI File: `?wish=…` as JSON. */
export const GET = route(async (request) => {
  const wish = wishOf(request)
  return new Response(Uint8Array.from(writeScore(compose(wish))), {
    headers: downloadHeaders('Made bed.mid', 'audio/midi'),
  })
})

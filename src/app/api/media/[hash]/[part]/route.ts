import { mediaObject } from '@/media/store/store'
import { say } from '@/messages/say'
import { route } from '../../../answer'
import { sendObject } from '../../../sendObject'

const HASH = /^[0-9a-f]{64}$/
const TYPES: [part: RegExp, type: string][] = [
  [/^page-\d{1,4}\.png$/, 'image/png'],
  [/^thumbnail-\d{1,4}\.webp$/, 'image/webp'],
  [/^proxy\.mp4$/, 'video/mp4'],
  [/^sound\.f32$/, 'application/octet-stream'],
  [/^analysis\.bin$/, 'application/octet-stream'],
]

export const GET = route<{ hash: string; part: string }>(async (request, { hash, part }) => {
  const type = TYPES.find(([pattern]) => pattern.test(part))?.[1]
  if (!HASH.test(hash) || !type) return Response.json({ error: say('server.noSuchThing') }, { status: 404 })
  return sendObject(request, mediaObject(hash, part), { 'content-type': type })
})

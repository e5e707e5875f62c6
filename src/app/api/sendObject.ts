import { objects } from '@/jobs/places'
import { say } from '@/messages/say'
import { streamOf } from './download'

const FOREVER = 'public, max-age=31536000, immutable'

/** Sends something that is stored, or the asked part of it. It never changes, so it may be kept for good. */
export async function sendObject(request: Request, name: string, headers: Record<string, string>): Promise<Response> {
  const size = await objects().size(name)
  if (size === null) return Response.json({ error: say('server.fileGone') }, { status: 404 })
  const range = parseRange(request.headers.get('range'), size)
  if (range === 'outside') return new Response(null, { status: 416, headers: { 'content-range': `bytes */${size}` } })
  const { from, to } = range ?? { from: 0, to: size - 1 }
  const bytes = await objects().open(name, range ? { from, to: to + 1 } : undefined)
  return new Response(streamOf(bytes), {
    status: range ? 206 : 200,
    headers: {
      'cache-control': FOREVER,
      'accept-ranges': 'bytes',
      'content-length': String(to - from + 1),
      ...(range && { 'content-range': `bytes ${from}-${to}/${size}` }),
      ...headers,
    },
  })
}

function parseRange(header: string | null, size: number): { from: number; to: number } | 'outside' | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '')
  if (!match || (!match[1] && !match[2])) return null
  const from = match[1] ? Number(match[1]) : Math.max(0, size - Number(match[2]))
  const to = match[1] && match[2] ? Math.min(size - 1, Number(match[2])) : size - 1
  return from > to || from >= size ? 'outside' : { from, to }
}

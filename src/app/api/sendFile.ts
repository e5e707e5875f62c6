import { open, type FileHandle } from 'node:fs/promises'

const CHUNK = 1 << 18
const FOREVER = 'public, max-age=31536000, immutable'

/** Sends a file or the asked part of it. Content addressed by hash never changes, so it may be kept for good. */
export async function sendFile(request: Request, path: string, headers: Record<string, string>): Promise<Response> {
  const file = await open(path).catch(() => null)
  if (!file) return Response.json({ error: 'This file is not there.' }, { status: 404 })
  const { size } = await file.stat()
  const range = parseRange(request.headers.get('range'), size)
  if (range === 'outside') {
    await file.close()
    return new Response(null, { status: 416, headers: { 'content-range': `bytes */${size}` } })
  }
  const { from, to } = range ?? { from: 0, to: size - 1 }
  return new Response(streamOf(file, from, to + 1), {
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

/** Pulled, not pushed: a reader that goes away in the middle just closes the file. */
function streamOf(file: FileHandle, from: number, to: number): ReadableStream<Uint8Array> {
  let at = from
  return new ReadableStream({
    async pull(controller) {
      const bytes = new Uint8Array(Math.min(CHUNK, to - at))
      const { bytesRead } = bytes.length > 0 ? await file.read(bytes, 0, bytes.length, at) : { bytesRead: 0 }
      at += bytesRead
      if (bytesRead > 0) controller.enqueue(bytes.subarray(0, bytesRead))
      if (bytesRead === 0 || at >= to) {
        await file.close()
        controller.close()
      }
    },
    cancel: () => file.close(),
  })
}

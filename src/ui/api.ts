import { EDITION_HEADER } from '@/core/messages/edition'
import type { FrameShape } from '@/core/lesson/framing'
import type { Layer, Look } from '@/core/lesson/layers'
import { say } from '@/messages/say'
import { compareEditions } from './newerServer'

/** The server has understood and says no; asking again would not help. */
export class Refusal extends Error {
  override name = 'Refusal'
}

const REFUSED = [400, 401, 403, 404, 410, 412, 413]

/** So long an answer may take (ms); what is asked again and again must not wait for one that never comes. */
const LIMIT = 60_000

/** Talks to the server (for `limit` ms at most); what it refuses becomes an error with the sentence it gave. */
export async function call<T>(
  path: string,
  options: { method?: string; body?: unknown; headers?: Record<string, string>; limit?: number } = {},
): Promise<T> {
  const { method = options.body === undefined ? 'GET' : 'POST', body, limit = LIMIT } = options
  const unanswered = () => {
    throw new Error(say('parts.noAnswer'))
  }
  const response = await fetch(path, {
    method,
    signal: AbortSignal.timeout(limit),
    headers: { ...(body !== undefined && { 'content-type': 'application/json' }), ...options.headers },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  }).catch(unanswered)
  compareEditions(response.headers.get(EDITION_HEADER))
  // One that breaks off in the middle says nothing about what was done.
  const answer = parsed(await response.text().catch(unanswered))
  if (REFUSED.includes(response.status)) throw new Refusal(answer.error)
  if (!response.ok && response.status !== 409)
    throw new Error(answer.error ?? say('parts.answered', { status: response.status }))
  return answer as T
}

/** What came between the page and the server may answer with anything. */
function parsed(text: string): { error?: string } {
  try {
    return JSON.parse(text) as { error?: string }
  } catch {
    return {}
  }
}

export const thumbnailUrl = (media: string, page: number) => `/api/media/${media}/thumbnail-${page}.webp`
export const pageUrl = (media: string, page: number) => `/api/media/${media}/page-${page}.png`
export const proxyUrl = (media: string) => `/api/media/${media}/proxy.mp4`
export const cardUrl = (lines: readonly string[], shape: FrameShape) =>
  `/api/cards?shape=${shape}&${lines.map((line) => `line=${encodeURIComponent(line)}`).join('&')}`
/** What lies over a picture, drawn as the finished video has it. */
export const layerUrl = (layer: Layer, look: Look, shape: FrameShape) =>
  `/api/layers?shape=${shape}&layer=${encodeURIComponent(JSON.stringify(layer))}&look=${encodeURIComponent(JSON.stringify(look))}`
/** A part of a sound as a file to keep: `wav` or `flac`. */
export const takeUrl = (media: string, part: { from: number; to: number }, name: string, format: 'wav' | 'flac') =>
  `/api/media/${media}/take?from=${part.from}&to=${part.to}&format=${format}&name=${encodeURIComponent(name)}`

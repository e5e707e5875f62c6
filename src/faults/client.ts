import { createHash } from 'node:crypto'
import { nanoid } from 'nanoid'
import type { Lesson, LessonDocument } from '@/core/lesson/document'
import { documentOf, tell } from '@/core/lesson/telling'
import type { OutputName } from '@/core/delivery/outputs'
import type { JobStatus } from '@/core/messages/job'

/**
 * Works with a running application over HTTP as the page does: what gets no answer is asked again, the same thing under
 * the same name. What a test counts on is what was confirmed.
 */
export interface Client {
  url: string
  lesson(id: string): Promise<{ lesson: Lesson; revision: number }>
  /** Saves on a base until it is answered; throws where the answer is a conflict. */
  save(id: string, base: number, lesson: Lesson): Promise<number>
  /** Sends a file in pieces, goes on where it stopped, and waits until it is imported or refused. */
  bringIn(name: string, bytes: Uint8Array, purpose?: 'media' | 'archive'): Promise<JobStatus<'import'>>
  /** Sends a voice as it is recorded, half a second at a time, and waits until it is imported. */
  record(lesson: string, samples: Float32Array, rate: number): Promise<JobStatus<'import'>>
  /** Has a file made, and gives its bytes. */
  make(lesson: string, kind: OutputName): Promise<{ status: JobStatus<'export'>; bytes: Uint8Array }>
  /** One request, until there is an answer that is not a failure of the server. */
  ask(path: string, options?: RequestInit): Promise<Response>
}

const ASK_AGAIN = 200 // ms
const LIMIT = 180_000 // ms
const PIECE = 256 * 1024
const TUS = { 'tus-resumable': '1.0.0' }

export function createClient(url: string): Client {
  async function ask(path: string, options: RequestInit = {}): Promise<Response> {
    const begun = performance.now()
    for (;;) {
      const answer = await whole(url + path, { ...options, signal: AbortSignal.timeout(30_000) }).catch(() => null)
      if (answer && answer.status < 500) return answer
      if (performance.now() - begun > LIMIT) throw new Error(`no answer from ${path} in ${LIMIT / 1000} s`)
      await pause(ASK_AGAIN)
    }
  }
  const json = async <T>(path: string, method = 'GET', body?: unknown): Promise<T> =>
    (await (await ask(path, { method, ...(body !== undefined && { body: JSON.stringify(body) }) })).json()) as T

  async function imported(id: string): Promise<JobStatus<'import'>> {
    return until(async () => {
      const [status] = await json<JobStatus<'import'>[]>(`/api/jobs?id=${id}`)
      return status && (status.state === 'done' || status.state === 'failed') ? status : null
    }, `import ${id}`)
  }

  return {
    url,
    ask,
    async lesson(id) {
      const { lesson, revision } = await json<{ lesson: LessonDocument; revision: number }>(`/api/lessons/${id}`)
      return { lesson: tell(lesson), revision }
    },
    async save(id, base, lesson) {
      const body = { base, lesson: documentOf(lesson), save: nanoid() }
      const answer = await json<{ saved: boolean; revision: number }>(`/api/lessons/${id}`, 'PUT', body)
      if (!answer.saved) throw new Error(`a false conflict: saved on ${base}, told of ${answer.revision}`)
      return answer.revision
    },
    async bringIn(name, bytes, purpose = 'media') {
      const coded = (text: string) => Buffer.from(text).toString('base64')
      const metadata = `filename ${coded(name)},purpose ${coded(purpose)}`
      const headers = { ...TUS, 'upload-length': String(bytes.length), 'upload-metadata': metadata }
      const made = await ask('/api/uploads', { method: 'POST', headers })
      if (made.status !== 201) throw new Error(await made.text())
      const address = new URL(made.headers.get('location')!, url).pathname
      for (let at = 0; at < bytes.length;) {
        const type = 'application/offset+octet-stream'
        const sent = await fetch(url + address, {
          method: 'PATCH',
          headers: { ...TUS, 'upload-offset': String(at), 'content-type': type },
          body: bytes.slice(at, at + PIECE),
        }).catch(() => null)
        if (sent?.status === 204) at = Number(sent.headers.get('upload-offset'))
        else {
          await pause(ASK_AGAIN)
          const where = await ask(address, { method: 'HEAD', headers: TUS })
          // Whole and taken away by its import already.
          if (where.status === 404 || where.status === 410) break
          at = Number(where.headers.get('upload-offset') ?? at)
        }
      }
      return imported(address.split('/').at(-1)!)
    },
    async record(lesson, samples, rate) {
      const id = nanoid(14)
      const details = {
        marks: [{ step: 'x', at: 0 }],
        punch: null,
        room: null,
        trimmed: false,
        rate,
        voiceAt: null,
        extension: null,
      }
      await json('/api/recordings', 'POST', { id, lesson, kind: 'voice', details })
      const all = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength)
      const piece = rate * 2
      for (let at = 0; at < all.length;) {
        const body = all.slice(at, at + piece)
        const answer = await ask(`/api/recordings/${id}/pieces?offset=${at}`, { method: 'PUT', body })
        const { bytes, error } = (await answer.json()) as { bytes?: number; error?: string }
        if (bytes === undefined) throw new Error(error)
        at = Math.min(at + piece, bytes)
        await pause(20)
      }
      const body = { bytes: all.length, name: 'Recorded by a fault run' }
      const { importId } = await json<{ importId: string }>(`/api/recordings/${id}/finish`, 'POST', body)
      return imported(importId)
    },
    async make(lesson, kind) {
      const { id } = await json<{ id: string }>('/api/jobs', 'POST', { kind: 'export', lesson, file: kind })
      const status = await until(async () => {
        const [own] = await json<JobStatus<'export'>[]>(`/api/jobs?id=${id}`)
        return own && own.state !== 'waiting' && own.state !== 'working' ? own : null
      }, `export ${id}`)
      const bytes = status.state === 'done' ? await (await ask(`/api/jobs/${id}/file`)).arrayBuffer() : null
      return { status, bytes: new Uint8Array(bytes ?? new ArrayBuffer(0)) }
    },
  }
}

/** An answer with all of its body: one that breaks off in the middle is none. */
async function whole(url: string, options: RequestInit): Promise<Response> {
  const answer = await fetch(url, options)
  const body = await answer.arrayBuffer()
  return new Response(body.byteLength > 0 ? body : null, { status: answer.status, headers: answer.headers })
}

export const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

/** Looks until there is something; says what was waited for where it never came. */
export async function until<T>(look: () => Promise<T | null>, what: string, limit = LIMIT): Promise<T> {
  const begun = performance.now()
  for (;;) {
    const found = await look()
    if (found !== null) return found
    if (performance.now() - begun > limit) throw new Error(`${what} did not end in ${limit / 1000} s`)
    await pause(ASK_AGAIN)
  }
}

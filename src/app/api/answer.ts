import { z } from 'zod'
import { parseStorableJson } from '@/core/text'
import { NotThere, UserError } from '@/core/userError'
import { isDatabaseAway } from '@/db/client'
import { DISK_FULL, isDiskFull } from '@/media/store/disk'

type Handler<P> = (request: Request, params: P) => Promise<Response>

/** A route: errors become sentences in JSON with the status that fits. Who may ask is decided before (src/server). */
export function route<P = unknown>(handler: Handler<P>) {
  return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
    try {
      const params = await context.params
      assertPlain(request, params)
      return await handler(request, params)
    } catch (error) {
      return failure(error)
    }
  }
}

const NAME = /^[\w.-]{1,80}$/

/** Parts of an address are names that we gave; anything else leads nowhere. */
function assertPlain(request: Request, params: unknown): void {
  const parts = Object.values((params as Record<string, string> | undefined) ?? {})
  if (parts.some((part) => !NAME.test(part))) throw new NotThere('There is no such thing.')
  if (/%00/.test(request.url)) throw new UserError('This address can not be understood. Reload the page.')
}

/** What a form or a list holds; a whole lesson may be larger. */
const USUAL_BODY = 4 * 1024 ** 2
export const LESSON_BODY = 64 * 1024 ** 2

/** The JSON of a request, in the form that is expected, of at most so many bytes. */
export async function readJson<T>(request: Request, schema: z.ZodType<T>, most = USUAL_BODY): Promise<T> {
  const text = new TextDecoder().decode(await readBody(request, most))
  const parsed = schema.safeParse(orUndefined(() => parseStorableJson(text)))
  if (!parsed.success)
    throw new UserError(
      `The server did not understand this request: ${parsed.error.issues[0]?.message}. Reload the page.`,
    )
  return parsed.data
}

/** A request's parameters in the form that is expected. */
export function readQuery<T>(request: Request, schema: z.ZodType<T>): T {
  const parsed = schema.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!parsed.success) throw new UserError('This is not how this is asked for. Reload the page.')
  return parsed.data
}

class TooLarge extends UserError {}

/** The bytes of a request; more than `most` are not read. */
export async function readBody(request: Request, most: number): Promise<Uint8Array> {
  const parts: Uint8Array[] = []
  let length = 0
  for await (const part of request.body ?? []) {
    length += part.length
    if (length > most)
      throw new TooLarge(`This is more than can be taken at once: at most ${Math.floor(most / 1e6)} MB.`)
    parts.push(part)
  }
  return Buffer.concat(parts, length)
}

function orUndefined<T>(work: () => T): T | undefined {
  try {
    return work()
  } catch {
    return undefined
  }
}

export const DATABASE_AWAY =
  'The database does not answer just now. Nothing was lost; it goes on by itself when it is back.'

/** PostgreSQL's classes for values it can't take, and for references to what is not there. */
const ODD_VALUE = /^22/
const NOTHING_THERE = '23503'

function failure(error: unknown): Response {
  const [status, sentence] = describe(error)
  if (status >= 500) console.error(error)
  return Response.json({ error: sentence }, { status })
}

function describe(error: unknown): [status: number, sentence: string] {
  if (error instanceof NotThere) return [404, error.message]
  if (error instanceof TooLarge) return [413, error.message]
  if (error instanceof UserError) return [400, error.message]
  if (isDatabaseAway(error)) return [503, DATABASE_AWAY]
  if (isDiskFull(error)) return [507, DISK_FULL]
  const { code = '' } = ((error as Error).cause ?? error) as { code?: string }
  if (ODD_VALUE.test(code)) return [400, 'The server did not understand this request. Reload the page.']
  if (code === NOTHING_THERE) return [404, 'What this belongs to is no longer there.']
  return [500, 'Something went wrong on the server. Nothing was lost; try it again.']
}

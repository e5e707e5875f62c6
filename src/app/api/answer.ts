import { z } from 'zod'
import { EDITION_HEADER } from '@/core/messages/edition'
import { parseStorableJson } from '@/core/text'
import { NotThere, Overtaken, UserError } from '@/core/userError'
import { isDatabaseAway } from '@/db/client'
import { isDiskFull } from '@/media/store/disk'
import { say } from '@/messages/say'

type Handler<P> = (request: Request, params: P) => Promise<Response>

/** A route: errors become sentences in JSON with the status that fits. Who may ask is decided before (src/server). */
export function route<P = unknown>(handler: Handler<P>) {
  return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
    try {
      const params = await context.params
      assertPlain(request, params)
      return inThisEdition(await handler(request, params))
    } catch (error) {
      return failure(error)
    }
  }
}

/** The build replaces this by its own name; without one (in tests) nobody compares. */
const EDITION = process.env.YARN_STEP_EDITION ?? ''

function inThisEdition(response: Response): Response {
  response.headers.set(EDITION_HEADER, EDITION)
  return response
}

const NAME = /^[\w.-]{1,80}$/

/** Parts of an address are names that we gave; anything else leads nowhere. */
function assertPlain(request: Request, params: unknown): void {
  const parts = Object.values((params as Record<string, string> | undefined) ?? {})
  if (parts.some((part) => !NAME.test(part))) throw new NotThere(say('server.noSuchThing'))
  if (/%00/.test(request.url)) throw new UserError(say('server.addressNotUnderstood'))
}

/** The browser that asks, by the token that it made for itself; empty where it says none. */
export const ownerOf = (request: Request): string => (request.headers.get('x-yarn-step-owner') ?? '').slice(0, 40)

/** What a form or a list holds; a whole lesson may be larger. */
const USUAL_BODY = 4 * 1024 ** 2
export const LESSON_BODY = 64 * 1024 ** 2

/** The JSON of a request, in the form that is expected, of at most so many bytes. */
export async function readJson<T>(request: Request, schema: z.ZodType<T>, most = USUAL_BODY): Promise<T> {
  const text = new TextDecoder().decode(await readBody(request, most))
  const parsed = schema.safeParse(orUndefined(() => parseStorableJson(text)))
  if (!parsed.success)
    throw new UserError(say('server.requestNotUnderstoodWhy', { message: parsed.error.issues[0]!.message }))
  return parsed.data
}

/** A request's parameters in the form that is expected. */
export function readQuery<T>(request: Request, schema: z.ZodType<T>): T {
  const parsed = schema.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!parsed.success) throw new UserError(say('server.askedOddly'))
  return parsed.data
}

class TooLarge extends UserError {}

/** The bytes of a request; more than `most` are not read. */
export async function readBody(request: Request, most: number): Promise<Uint8Array> {
  const parts: Uint8Array[] = []
  let length = 0
  for await (const part of request.body ?? []) {
    length += part.length
    if (length > most) throw new TooLarge(say('server.tooMuchAtOnce', { most: Math.floor(most / 1e6) }))
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
  if (error instanceof Overtaken) return [412, error.message]
  if (error instanceof TooLarge) return [413, error.message]
  if (error instanceof UserError) return [400, error.message]
  if (isDatabaseAway(error)) return [503, say('server.databaseAway')]
  if (isDiskFull(error)) return [507, say('server.diskFull')]
  const { code = '' } = ((error as Error).cause ?? error) as { code?: string }
  if (ODD_VALUE.test(code)) return [400, say('server.requestNotUnderstood')]
  if (code === NOTHING_THERE) return [404, say('server.ownerGone')]
  return [500, say('server.serverFault')]
}

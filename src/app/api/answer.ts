import { z } from 'zod'
import { UserError } from '@/core/userError'

type Handler<P> = (request: Request, params: P) => Promise<Response>

/** A route: errors become sentences in JSON, and pages of other origins are refused. */
export function route<P = unknown>(handler: Handler<P>) {
  return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
    try {
      refuseStrangers(request)
      return await handler(request, await context.params)
    } catch (error) {
      return failure(error)
    }
  }
}

/** The JSON of a request, in the form that is expected. */
export async function readJson<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const parsed = schema.safeParse(await request.json().catch(() => undefined))
  if (!parsed.success)
    throw new UserError(
      `The server did not understand this request: ${parsed.error.issues[0]?.message}. Reload the page.`,
    )
  return parsed.data
}

/** A page of another site may not make a browser on this machine change anything here. */
export function refuseStrangers(request: Request): void {
  const origin = request.headers.get('origin')
  if (origin && request.method !== 'GET' && new URL(origin).host !== request.headers.get('host')) {
    throw new UserError('This request comes from another site and was refused.')
  }
}

function failure(error: unknown): Response {
  if (error instanceof UserError) return Response.json({ error: error.message }, { status: 400 })
  console.error(error)
  return Response.json(
    { error: 'Something went wrong on the server. Nothing was lost; try it again.' },
    { status: 500 },
  )
}

import { z } from 'zod'
import { wishSchema, type Wish } from '@/core/compose/wish'
import { parseStorableJson } from '@/core/text'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'

const querySchema = z.object({ wish: z.string().transform(parseStorableJson).pipe(wishSchema) })

/** The wish in a request's address. */
export function wishOf(request: Request): Wish {
  try {
    return querySchema.parse(Object.fromEntries(new URL(request.url).searchParams)).wish
  } catch (error) {
    throw new UserError(say('server.wishNotUnderstood'), { cause: error })
  }
}

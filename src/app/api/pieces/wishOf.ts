import type { Wish } from '@/core/compose/wish'
import { UserError } from '@/core/userError'

/** The wish in a request's address. */
export function wishOf(request: Request): Wish {
  try {
    return JSON.parse(new URL(request.url).searchParams.get('wish') ?? '') as Wish
  } catch {
    throw new UserError('This does not say what piece is wanted.')
  }
}

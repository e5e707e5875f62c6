import { extname } from 'node:path'
import { UserError } from '@/core/userError'

/** What is made by a file's ending; a sentence for any other. */
export function byEnding<T>(out: string, ways: Record<string, T>): T {
  const way = ways[extname(out).toLowerCase()]
  if (way !== undefined) return way
  const endings = Object.keys(ways).join(', ')
  throw new UserError(`The file has to end in one of ${endings}, so that it is known what to make: ${out}.`)
}

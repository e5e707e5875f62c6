import { notFound } from 'next/navigation'
import { NotThere } from '@/core/userError'
import { courseTitle } from '@/db/courses'

/** The title of the course that an address names; the page that nothing was found where there is none. */
export async function titleOf(id: string): Promise<string> {
  if (!/^[\w-]{1,40}$/.test(id)) notFound()
  try {
    return await courseTitle(id)
  } catch (error) {
    if (error instanceof NotThere) notFound()
    throw error
  }
}

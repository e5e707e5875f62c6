import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { incomingObject, objects, uploadsFolder } from './places'

/** Removes a file as it came in; it may have come in at another machine: there it is cleared away. */
export async function removeUpload(id: string): Promise<void> {
  await objects().remove(incomingObject(id))
  const path = join(uploadsFolder(), id)
  await Promise.all([path, `${path}.json`].map((file) => rm(file, { force: true })))
}

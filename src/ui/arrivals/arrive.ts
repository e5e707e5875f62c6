import type { Autosave } from '../saving/autosave'

/** What this page is bringing into its lesson: it waits for nobody. */
const arriving = new Set<string>()
export const isArriving = (id: string): boolean => arriving.has(id)

/**
 * Does what puts an arrival into the lesson; `lay` returns false where it could not be done. Once that is saved, by and by,
 * `tell` says that it has arrived: until then what was sent of it is all there is, and saving may have to wait for a server
 * that is away.
 */
export async function arrive(
  id: string,
  autosave: Pick<Autosave, 'whenSaved'>,
  lay: () => Promise<boolean> | boolean,
  tell: (id: string) => Promise<unknown>,
): Promise<boolean> {
  arriving.add(id)
  try {
    if (await lay()) {
      void whenSaved(id, autosave, tell)
      return true
    }
  } catch (error) {
    arriving.delete(id)
    throw error
  }
  arriving.delete(id)
  return false
}

async function whenSaved(id: string, autosave: Pick<Autosave, 'whenSaved'>, tell: (id: string) => Promise<unknown>) {
  try {
    if (await autosave.whenSaved()) await tell(id)
  } catch (error) {
    console.error(error)
  }
  arriving.delete(id)
}

import { shelfItem } from '@/core/lesson/fromFile'
import { imported } from '../arrival'
import type { Desk } from '../lesson/context'
import { arrive } from './arrive'
import { tellTaken } from './ownArrivals'

/** Puts a file that came in on the shelf of the lesson. Throws an Error with the sentence of what went wrong. */
export async function takeFile({ store, autosave }: Desk, id: string, importId: string): Promise<void> {
  const lay = async () => {
    const media = await imported(importId)
    store.getState().addMedia([media])
    return store.getState().edit({ name: 'putOnShelf', items: [shelfItem(media)] })
  }
  await arrive(id, autosave, lay, tellTaken)
}

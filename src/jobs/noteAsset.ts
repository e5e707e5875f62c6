import { noteAssets } from '@/db/assets'
import type { AssetNote } from '@/media/store/assets'

/**
 * Writes down what the store keeps, a moment later and many at once: nobody's work waits for that, or fails by it. What is
 * lost so is found when stock is taken (clearAway.ts).
 */

const noted = new Map<string, AssetNote>()
let writing: Promise<void> | null = null

export function noteAsset(note: AssetNote): void {
  noted.set(note.name, note)
  writing ??= write().finally(() => (writing = null))
}

/** Resolves when all that was noted so far is written down. */
export const assetsNoted = (): Promise<void> => writing ?? Promise.resolve()

async function write(): Promise<void> {
  while (noted.size > 0) {
    const notes = [...noted.values()]
    noted.clear()
    await noteAssets(notes).catch((error: unknown) => console.error(error))
  }
}

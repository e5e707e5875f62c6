import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { writeWav } from '@/core/formats/wav'
import type { MediaInfo } from '@/core/messages/media'
import { EFFECTS } from '@/core/sounds/effects'
import { HOUSE_RATE } from '@/core/units'
import { importMedia } from '@/media/import/import'
import { say } from '@/messages/say'
import type { MediaStore } from '@/media/store/store'

/** One of the library's sounds as a file of a demo lesson. */
export async function madeEffect(store: MediaStore, work: string, id: string): Promise<MediaInfo> {
  const made = EFFECTS.find((one) => one.id === id)!
  const file = join(work, `${id}.wav`)
  await writeFile(file, writeWav([made.make()], HOUSE_RATE))
  return importMedia(store, file, `${say(`effects.${made.id}`)}.wav`)
}

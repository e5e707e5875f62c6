import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { writeWav } from '@/core/formats/wav'
import { shelfItem, shownPicturesOf } from '@/core/lesson/fromFile'
import { firstLesson } from '@/core/lesson/firstLesson'
import { newLayer } from '@/core/lesson/layers'
import type { Lesson } from '@/core/lesson/document'
import { HOUSE_RATE } from '@/core/units'
import { importMedia } from '@/media/import/import'
import type { MediaStore } from '@/media/store/store'
import { HARBOUR_LIGHTS } from './harbourLights'
import { composeBed } from './music'
import { readAloud } from './narrator'

const TITLE = 'Lights of the harbour'
const LICENCE = { source: 'Made for this demo', licence: 'CC0 1.0', credit: 'Skerrow Harbour sailing school' }

/** The lesson that a deck alone becomes: its notes read by a voice that stands in, with music, pointers, edges and a slow move. */
export async function lightsLesson(
  store: MediaStore,
  deckFile: string,
  work: string,
  newId: () => string,
): Promise<Lesson> {
  const deck = await importMedia(store, deckFile, 'harbour-lights.pptx')
  const songFile = join(work, 'pier-head.ogg')
  await composeBed(join(work, 'pier-head'), 2, songFile)
  const song = await importMedia(store, songFile, 'pier-head.ogg')
  const standIns = await Promise.all(
    shownPicturesOf(deck).map(async ({ notes }, i) => {
      const file = join(work, `lights-${i + 1}.wav`)
      await writeFile(file, writeWav([(await readAloud([notes], 0.4)).samples], HOUSE_RATE))
      return { script: notes, media: await importMedia(store, file, `lights-${i + 1}.wav`) }
    }),
  )
  const lesson = firstLesson({ title: TITLE, pictures: [deck], voices: [], music: [song], standIns }, newId)
  const shown = HARBOUR_LIGHTS.filter(({ isHidden }) => !isHidden)
  const steps = lesson.steps.map((step, i) => {
    const { over } = shown[i]!
    const layers = over ? [{ ...newLayer(newId(), over.layer), area: over.area }] : []
    return {
      ...step,
      layers: i === 0 ? [newLayer(newId(), 'slow move')] : layers,
      // Room for the pictures to give way to each other.
      leadIn: 0.6,
      tail: i === shown.length - 1 ? 2.5 : 0.6,
    }
  })
  return {
    ...lesson,
    steps,
    edge: { kind: 'dissolve', length: 0.6 },
    opening: 0.8,
    closing: 1.5,
    shelf: [deck, song].map((media) => ({ ...shelfItem(media), ...LICENCE })),
  }
}

import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { writeWav } from '@/core/formats/wav'
import type { Lesson, Step } from '@/core/lesson/document'
import { emptyLesson, newBed, newStep } from '@/core/lesson/newParts'
import { shelfItem } from '@/core/lesson/fromFile'
import { newTake } from '@/core/lesson/takes'
import { EFFECTS_LICENCE } from '@/core/sounds/effects'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { importMedia } from '@/media/import/import'
import type { MediaStore } from '@/media/store/store'
import { madeEffect } from './effects'
import { LEARN } from './learnByDoing'
import { composeBed } from './music'
import { readAloud } from './narrator'

const LICENCE = { source: 'Made for this demo', licence: 'CC0 1.0', credit: 'Skerrow Harbour sailing school' }
/** Kept around what is said. */
const EDGE: Seconds = 0.2
const BELL_STEP = 3

/** Cards that say what to do, the same said by a voice, a bell at the wrong place, and music. */
export async function learnLesson(store: MediaStore, work: string): Promise<Lesson> {
  const { samples, parts } = await readAloud(
    LEARN.map(({ sentences }) => sentences.join(' ')),
    0.8,
  )
  const file = join(work, 'learn-reading.wav')
  await writeFile(file, writeWav([samples], HOUSE_RATE))
  const voice = await importMedia(store, file, 'learn-reading.wav')
  const song = join(work, 'learn-music.ogg')
  await composeBed(join(work, 'learn-music'), 1, song)
  const [music, bell] = [await importMedia(store, song, 'learn-music.ogg'), await madeEffect(store, work, 'two-bells')]
  const steps = LEARN.map(({ title, lines, sentences }, i): Step => {
    const { from, to } = parts[i]!
    const span = { media: voice.hash, from: from - EDGE, to: to + EDGE }
    return {
      ...newStep(`l${i + 1}`, title, { kind: 'card', lines }),
      length: { kind: 'voice', atLeast: 1 },
      leadIn: 0.4,
      tail: 0.8,
      script: sentences.join(' '),
      passages: [{ ...span, id: `p${i + 1}`, pause: 0 }],
    }
  })
  return {
    ...emptyLesson('Learn by doing'),
    steps,
    takes: steps.map((step, i) => newTake(`k${i + 1}`, voice.hash, step, step.passages[0]!, 'brought-in')),
    bedCues: [newBed('b1', music.hash, steps[0]!.id)],
    sounds: [
      {
        id: 's1',
        media: bell.hash,
        from: 0,
        to: bell.length!,
        track: 'effect',
        anchor: { kind: 'step', step: steps[BELL_STEP]!.id, offset: 0.2 },
        gain: -12,
        fadeIn: 0,
        fadeOut: 0.1,
        meant: true,
        caption: "a ship's bell",
      },
    ],
    shelf: [
      { ...shelfItem(voice), ...LICENCE },
      { ...shelfItem(music), ...LICENCE },
      { ...shelfItem(bell), ...EFFECTS_LICENCE },
    ],
  }
}

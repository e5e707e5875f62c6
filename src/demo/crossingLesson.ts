import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser } from 'puppeteer-core'
import { writeWav } from '@/core/formats/wav'
import type { Lesson, Mark, Passage, Picture, Step } from '@/core/lesson/document'
import { emptyLesson, newBed, newRecording, newStep, newStill } from '@/core/lesson/newParts'
import { shelfItem } from '@/core/lesson/fromFile'
import { newTake } from '@/core/lesson/takes'
import type { MediaInfo } from '@/core/messages/media'
import { EFFECTS, EFFECTS_LICENCE } from '@/core/sounds/effects'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { importMedia } from '@/media/import/import'
import { runProgram } from '@/media/process'
import { projectFolder } from '@/media/settings'
import { withMarksSettled } from '@/media/speech/settleLesson'
import type { Assets } from '@/media/store/assets'
import type { MediaStore } from '@/media/store/store'
import { CHURCH_OPEN, CROSSING } from './crossingTheBar'
import { madeEffect } from './effects'
import { CLICKS, printSlides, recordHarbourPage } from './harbourPage'
import { composeBed } from './music'
import { readAloud, type Reading } from './narrator'
import { slidesHtml } from './slideHtml'

const LICENCE = { source: 'Made for this demo', licence: 'CC0 1.0', credit: 'Skerrow Harbour sailing school' }
/** Kept around what is said. */
const EDGE: Seconds = 0.2
const [CARD, LOOK, PAGE, POSTS, OVER] = [0, 1, 2, 3, 4] as const

/**
 * The lesson that shows what hangs on words: effects and a further picture, moments of a recording with its own sound, two
 * takes of which parts are heard, a line that brings the music up at the end, and a pocket in it.
 */
export async function crossingLesson(
  browser: Browser,
  store: MediaStore,
  assets: Assets,
  work: string,
): Promise<Lesson> {
  const files = await makeFiles(browser, store, work)
  const [first, second] = [await reading(store, work, 'reading'), await reading(store, work, 'second-reading')]
  const marks: Mark[] = []
  /** A mark before the word with which `text` begins. */
  const markAt = ({ id: step, script, passages }: Step, text: string): string => {
    const id = `m${marks.length + 1}`
    const character = script.indexOf(text)
    if (character < 0) throw new Error(`"${text}" is not said in ${step}`)
    const place = { media: passages[0]!.media, at: guessAt(passages, character / script.length) }
    marks.push({ id, step, word: { character, side: 'before' }, place, guessed: 'place' })
    return id
  }

  let page = 0
  const steps = CROSSING.map(({ title, show, sentences }, i): Step => {
    const picture: Picture =
      show === 'recording'
        ? { ...newRecording(files.page.hash, files.page.length!), gain: -8 }
        : 'card' in show
          ? { kind: 'card', lines: show.card }
          : newStill(files.deck.hash, ++page)
    const passages = [{ ...spanOf(first, i, 0, sentences.length - 1), id: `p${i + 1}`, pause: 0 }]
    const lengths = { leadIn: i === CARD ? 3 : 0.3, tail: i === OVER ? 5 : 0.6 }
    return {
      ...newStep(`c${i + 1}`, title, picture),
      ...lengths,
      length: { kind: 'voice', atLeast: 1 },
      script: sentences.join(' '),
      passages,
    }
  })
  // The first sentence of the second take, the others of the first.
  steps[LOOK]!.passages = [
    { ...spanOf(second, LOOK, 0, 0), id: 'p2a', pause: 0 },
    { ...spanOf(first, LOOK, 1, 2), id: 'p2b', pause: 0.2 },
  ]
  steps[PAGE]!.picture = {
    ...(steps[PAGE]!.picture as ReturnType<typeof newRecording>),
    pins: CLICKS.map((at, i) => ({ id: `pin${i + 1}`, at, mark: markAt(steps[PAGE]!, PINNED[i]!) })),
  }
  steps[POSTS]!.more = [
    {
      id: 'more1',
      picture: newStill(files.deck.hash, page + 1),
      mark: markAt(steps[POSTS]!, 'As soon as'),
    },
  ]
  const takes = steps.flatMap((step, i) =>
    [first, ...(i === LOOK ? [second] : [])].map((one, k) => ({
      ...newTake(`k${i + 1}${k === 0 ? '' : 'b'}`, one.media.hash, step, spanOf(one, i, 0, lastOf(i)), 'brought-in'),
      ...(k > 0 && { name: `${step.title}, second take` }),
    })),
  )
  const lesson: Lesson = {
    ...emptyLesson('Crossing the bar'),
    steps,
    takes,
    bedCues: [newBed('b1', files.song.hash, steps[CARD]!.id)],
    sounds: [
      effect('s1', files.bell, { kind: 'step', step: steps[CARD]!.id, offset: 0.4 }, -10, "a ship's bell"),
      effect(
        's2',
        files.twoBells,
        { kind: 'mark', mark: markAt(steps[LOOK]!, 'bell'), offset: 0.25 },
        -14,
        'two bells',
      ),
      effect('s3', files.chime, { kind: 'mark', mark: markAt(steps[POSTS]!, 'turn'), offset: -0.3 }, -14, ''),
    ],
    // The music comes up once the last word is said.
    nudges: [
      { id: 'n1', anchor: { kind: 'mark', mark: markAt(steps[OVER]!, 'out.'), offset: 0 }, gain: 0, shape: 'smooth' },
      { id: 'n2', anchor: { kind: 'step', step: steps[OVER]!.id, offset: 12.5 }, gain: 3, shape: 'straight' },
    ],
    pocket: { on: true, depth: 6, nearer: 0 },
    marks,
    shelf: [
      ...[files.deck, files.page, files.song, first.media, second.media].map((media) => ({
        ...shelfItem(media),
        ...LICENCE,
      })),
      ...[files.bell, files.twoBells, files.chime].map((media) => ({ ...shelfItem(media), ...EFFECTS_LICENCE })),
    ],
  }
  return withMarksSettled(lesson, store, assets)
}

/** What is said when the recording shows each click. */
const PINNED = ['port, the', 'day, and', 'marked']

const lastOf = (step: number) => CROSSING[step]!.sentences.length - 1

async function makeFiles(browser: Browser, store: MediaStore, work: string) {
  const take = (file: string) => importMedia(store, file, file.split('/').at(-1)!)
  const slides = CROSSING.flatMap(({ show }) => (typeof show === 'object' && 'slide' in show ? [show.slide] : []))
  const deck = join(work, 'crossing.pdf')
  await printSlides(browser, slidesHtml([...slides, CHURCH_OPEN], projectFolder()), deck)
  const song = join(work, 'ebb.ogg')
  await composeBed(join(work, 'ebb'), 1, song)
  return {
    deck: await take(deck),
    page: await take(await filmWithSound(browser, work)),
    song: await take(song),
    bell: await madeEffect(store, work, 'bell'),
    twoBells: await madeEffect(store, work, 'two-bells'),
    chime: await madeEffect(store, work, 'chime'),
  }
}

/** The harbour page once more, with the clicks of its pointer to be heard. */
async function filmWithSound(browser: Browser, work: string): Promise<string> {
  const [silent, clicks, out] = [join(work, 'page.mp4'), join(work, 'clicks.wav'), join(work, 'harbour-page-2.mp4')]
  await recordHarbourPage(browser, projectFolder(), silent)
  const click = EFFECTS.find(({ id }) => id === 'click')!.make()
  const samples = new Float32Array(Math.round((CLICKS.at(-1)! + 3) * HOUSE_RATE))
  for (const at of CLICKS) samples.set(click, Math.round(at * HOUSE_RATE))
  await writeFile(clicks, writeWav([samples], HOUSE_RATE))
  const inputs = ['-i', silent, '-i', clicks]
  await runProgram('ffmpeg', ['-v', 'error', '-y', ...inputs, '-c:v', 'copy', '-c:a', 'aac', out], { limit: 120 })
  return out
}

interface Read {
  media: MediaInfo
  /** Of each sentence, in the order of the steps. */
  parts: Reading['parts']
}

async function reading(store: MediaStore, work: string, name: string): Promise<Read> {
  const { samples, parts } = await readAloud(
    CROSSING.flatMap(({ sentences }) => sentences),
    name === 'reading' ? 0.55 : 0.7,
  )
  const file = join(work, `${name}.wav`)
  await writeFile(file, writeWav([samples], HOUSE_RATE))
  return { media: await importMedia(store, file, `${name}.wav`), parts }
}

/** From one sentence of a step to another. */
function spanOf({ media, parts }: Read, step: number, first: number, last: number) {
  const before = CROSSING.slice(0, step).reduce((sum, { sentences }) => sum + sentences.length, 0)
  return { media: media.hash, from: parts[before + first]!.from - EDGE, to: parts[before + last]!.to + EDGE }
}

/** About where such a share of the script is said; the words themselves are found by alignment. */
function guessAt(passages: readonly Passage[], share: number): Seconds {
  const { from, to } = passages[0]!
  return from + EDGE + share * (to - from - 2 * EDGE)
}

const effect = (
  id: string,
  media: MediaInfo,
  anchor: Lesson['sounds'][number]['anchor'],
  gain: number,
  caption: string,
) => ({
  id,
  media: media.hash,
  from: 0,
  to: media.length!,
  track: 'effect' as const,
  anchor,
  gain,
  fadeIn: 0,
  fadeOut: 0.1,
  meant: true,
  caption,
})

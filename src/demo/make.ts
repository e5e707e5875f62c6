import { takeSpeech } from '@/core/measure/takeVoice'
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import type { Browser } from 'puppeteer-core'
import { writeWav } from '@/core/formats/wav'
import type { Lesson, Picture } from '@/core/lesson/document'
import { emptyLesson, newBed, newRecording, newStep, newStill } from '@/core/lesson/newParts'
import { newLayer, type Layer, type WordsLayer } from '@/core/lesson/layers'
import { firstLesson } from '@/core/lesson/firstLesson'
import { shelfItem } from '@/core/lesson/fromFile'
import { takesFromPassages } from '@/core/lesson/takes'
import type { MediaInfo } from '@/core/messages/media'
import { HOUSE_RATE } from '@/core/units'
import { writeArchive } from '@/media/archive'
import { importMedia } from '@/media/import/import'
import { runProgram } from '@/media/process'
import { heardWords } from '@/media/speech/lessonWords'
import { openAssets } from '@/media/store/assets'
import { openStore, type MediaStore } from '@/media/store/store'
import { launchBrowser } from './browser'
import { crossingLesson } from './crossingLesson'
import { writeDeck } from './deck'
import { HARBOUR_LIGHTS } from './harbourLights'
import { printSlides, recordHarbourPage } from './harbourPage'
import { learnLesson } from './learnLesson'
import { LEAVING_A_BERTH } from './leavingABerth'
import { lightsLesson } from './lightsLesson'
import { composeBed } from './music'
import { readAloud } from './narrator'
import { slidesHtml } from './slideHtml'
import { TIDE_TABLE } from './tideTable'
import { projectFolder } from '@/media/settings'
import { folderObjects } from '@/media/store/folderObjects'

/** Names of the finished lessons' archives and of the raw files' folder. */
export const TIDE_ARCHIVE = 'reading-a-tide-table.zip'
export const CROSSING_ARCHIVE = 'crossing-the-bar.zip'
export const LEARN_ARCHIVE = 'learn-by-doing.zip'
export const BERTH_ARCHIVE = 'leaving-a-berth.zip'
export const LIGHTS_ARCHIVE = 'lights-of-the-harbour.zip'
export const RAW_FOLDER = 'raw-files'
/** The words that were found in the takes of the finished lessons. */
export const FOUND_FOLDER = 'found'

const LICENCE = { source: 'Made for this demo', licence: 'CC0 1.0', credit: 'Skerrow Harbour sailing school' }

/** Makes the demo lessons, and the raw files of the one that is still to be made, in `out`. Everything is drawn, spoken and composed here. */
export async function makeDemo(out: string): Promise<{ lessons: string[]; files: string[] }> {
  const work = await mkdtemp(join(tmpdir(), 'yarn-step-demo-'))
  const browser = await launchBrowser(join(work, 'browser'))
  try {
    await mkdir(join(out, RAW_FOLDER), { recursive: true })
    const store = openStore(folderObjects(join(work, 'media')))
    const found = openAssets(folderObjects(join(out, FOUND_FOLDER)))
    const keep = async (lesson: Lesson, archive: string) => {
      await heardWords(lesson, store, found)
      await writeArchive(lesson, store, join(out, archive))
    }
    const files = await makeBerthFiles(browser, join(out, RAW_FOLDER), work)
    const lightsDeck = join(out, RAW_FOLDER, 'harbour-lights.pptx')
    await writeDeck(HARBOUR_LIGHTS, lightsDeck)
    await keep(await tideLesson(browser, store, work), TIDE_ARCHIVE)
    await keep(await crossingLesson(browser, store, found, work), CROSSING_ARCHIVE)
    await keep(await lightsLesson(store, lightsDeck, work, counter('h')), LIGHTS_ARCHIVE)
    await keep(await learnLesson(store, work), LEARN_ARCHIVE)
    await writeArchive(await berthLesson(store, files), store, join(out, BERTH_ARCHIVE))
    return {
      lessons: [TIDE_ARCHIVE, CROSSING_ARCHIVE, LIGHTS_ARCHIVE, LEARN_ARCHIVE, BERTH_ARCHIVE].map((name) =>
        resolve(out, name),
      ),
      files: [...files, lightsDeck].map((file) => resolve(file)),
    }
  } finally {
    await browser.close()
    await rm(work, { recursive: true, force: true })
  }
}

/** The deck, the reading and the song, as an author would have them lying on a disk. */
async function makeBerthFiles(browser: Browser, folder: string, work: string): Promise<string[]> {
  const [deck, reading, song] = ['leaving-a-berth.pdf', 'reading.mp3', 'easy-water.mp3'].map((name) =>
    join(folder, name),
  ) as [string, string, string]
  await printSlides(
    browser,
    slidesHtml(
      LEAVING_A_BERTH.map(({ slide }) => slide),
      projectFolder(),
    ),
    deck,
  )
  const { samples } = await readAloud(
    LEAVING_A_BERTH.map(({ words }) => words),
    1.4,
  )
  const wav = join(work, 'reading.wav')
  await writeFile(wav, writeWav([samples], HOUSE_RATE))
  await runProgram('ffmpeg', ['-v', 'error', '-y', '-f', 'wav', '-i', wav, '-b:a', '96k', reading], { limit: 120 })
  await composeBed(join(work, 'berth'), 2, song)
  return [deck, reading, song]
}

async function berthLesson(store: MediaStore, [deck, reading, song]: string[]): Promise<Lesson> {
  const [pictures, voice, music] = [await take(store, deck!), await take(store, reading!), await take(store, song!)]
  const speech = takeSpeech((await store.analysis(voice.hash))!)
  const script = LEAVING_A_BERTH.map(({ words }) => words).join('\n\n')
  const lesson = firstLesson(
    { title: 'Leaving a berth', pictures: [pictures], voices: [{ media: voice, speech }], music: [music], script },
    counter('b'),
  )
  return { ...lesson, shelf: lesson.shelf.map((item) => ({ ...item, ...LICENCE })) }
}

async function tideLesson(browser: Browser, store: MediaStore, work: string): Promise<Lesson> {
  const slides = TIDE_TABLE.flatMap(({ show }) => (typeof show === 'object' && 'slide' in show ? [show.slide] : []))
  const deckFile = join(work, 'tides.pdf')
  await printSlides(browser, slidesHtml(slides, projectFolder()), deckFile)
  const pageFile = join(work, 'harbour-page.mp4')
  await recordHarbourPage(browser, projectFolder(), pageFile)
  const songFile = join(work, 'slack-water.ogg')
  await composeBed(join(work, 'slack-water'), 3, songFile)
  const { samples, parts } = await readAloud(
    TIDE_TABLE.map(({ words }) => words),
    0.9,
  )
  const readingFile = join(work, 'long-reading.wav')
  await writeFile(readingFile, writeWav([samples], HOUSE_RATE))

  const [deck, page, song, reading] = await Promise.all(
    [deckFile, pageFile, songFile, readingFile].map((file) => take(store, file)),
  )
  const newId = counter('t')
  let slide = 0
  const steps = TIDE_TABLE.map(({ title, show, words }, i) => {
    const picture: Picture =
      show === 'recording'
        ? newRecording(page!.hash, page!.length!)
        : 'card' in show
          ? { kind: 'card', lines: show.card }
          : newStill(deck!.hash, ++slide)
    const { from, to } = parts[i]!
    return {
      ...newStep(newId(), title, picture),
      script: words,
      passages: [{ id: newId(), media: reading!.hash, from: from - 0.2, to: to + 0.2, pause: 0 }],
      length: { kind: 'voice' as const, atLeast: show === 'recording' ? Math.ceil(page!.length!) : 1 },
      layers: title === 'Find place and date' ? todayPointedAt(newId) : [],
      ...timing(i),
    }
  })
  return {
    ...emptyLesson('Reading a tide table'),
    steps,
    edge: { kind: 'dissolve', length: 0.5 },
    takes: takesFromPassages(steps, 'brought-in', newId),
    bedCues: [newBed(newId(), song!.hash, steps[0]!.id)],
    shelf: [deck!, page!, song!, reading!].map((media) => ({ ...shelfItem(media), ...LICENCE })),
  }
}

/** The row of the day on the slide, ringed and named. */
const todayPointedAt = (newId: () => string): Layer[] => [
  { ...newLayer(newId(), 'ring'), area: { x: 0.02, y: 0.385, width: 0.58, height: 0.105 } },
  {
    ...(newLayer(newId(), 'label') as WordsLayer),
    text: 'today',
    area: { x: 0.63, y: 0.385, width: 0.2, height: 0.1 },
  },
]

/** Music alone under the title, time to think in the worked example, and an ending. */
function timing(index: number): { leadIn: number; tail: number } {
  if (index === 0) return { leadIn: 3.2, tail: 1 }
  if (TIDE_TABLE[index]!.title === 'A worked example') return { leadIn: 0.3, tail: 6 }
  return { leadIn: 0.3, tail: index === TIDE_TABLE.length - 1 ? 5 : 0.5 }
}

const take = (store: MediaStore, file: string): Promise<MediaInfo> => importMedia(store, file, file.split('/').at(-1)!)

const counter = (prefix: string) => {
  let count = 0
  return () => `${prefix}${++count}`
}

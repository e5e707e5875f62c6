import { takeSpeech } from '@/core/measure/takeVoice'
import { readFile, writeFile } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { nanoid } from 'nanoid'
import { writeWav } from '@/core/formats/wav'
import { layoutLesson } from '@/core/lesson/layout'
import { firstLesson, scriptsToRead, scriptToFind } from '@/core/lesson/firstLesson'
import { FRAME_LINES, FRAME_RATES, FRAME_SHAPES, frameSchema, type FrameSettings } from '@/core/lesson/framing'
import { picturesOf } from '@/core/lesson/fromFile'
import { titleFromName, type MediaInfo } from '@/core/messages/media'
import { nearestLanguage } from '@/core/narration/words/language'
import { misfit, readingFit } from '@/core/narration/lay/readingFit'
import { readScript } from '@/core/narration/words/script'
import { DEFAULT_READING, type ReadingSettings } from '@/core/narration/speechVoice'
import { HOUSE_RATE } from '@/core/units'
import { UserError } from '@/core/userError'
import { readAloud } from '@/media/speech/reading'
import { listVoices } from '@/media/speech/voices'
import { wordsOfTake } from '@/media/speech/takeWords'
import { writeArchive } from '@/media/archive'
import type { Assets } from '@/media/store/assets'
import type { MediaStore } from '@/media/store/store'
import { withWorkFolder } from '@/media/store/workFolder'
import { importFile, importSoundFile, withStore, type ImportedSound } from '../workspace'

interface NewOptions {
  pictures: string[]
  voice?: string
  bed?: string
  script?: string
  title?: string
  language: string
  withHidden?: boolean
  shape: string
  lines: number
  rate: number
  fill?: boolean
  out: string
}

/** Makes a first lesson. Without a voice, what is written in the script or in a deck's notes is read by a synthesised one. */
export function newLesson(options: NewOptions) {
  const { voice, bed, script, language, withHidden } = options
  const frame = frameAsked(options)
  return withStore(async (store, assets) => {
    const pictures = await importPictures(store, options.pictures)
    const reading = voice ? await importSoundFile(store, voice) : null
    const song = bed ? await importSoundFile(store, bed) : null
    const title = options.title ?? titleFromName(basename(options.pictures[0]!))
    const shown = { title, pictures, withHidden, script: script ? await readFile(script, 'utf8') : undefined }
    const settings = await voiceFor(language)
    const scriptRead = scriptToFind(shown)
    const found = reading ? await findWords(store, assets, reading, scriptRead, language) : undefined
    const made = firstLesson(
      {
        ...shown,
        found,
        voices: reading ? [{ media: reading.media, speech: takeSpeech(reading.analysis) }] : [],
        standIns: reading ? [] : await readScripts(store, assets, scriptsToRead(shown), settings),
        music: song ? [song.media] : [],
      },
      () => nanoid(10),
    )
    const lesson = { ...made, frame, framing: { ...made.framing, way: options.fill ? 'fill' : 'whole' } as const }
    const told = language === 'en' ? lesson : { ...lesson, language, mainLanguage: language, reading: settings }
    await writeArchive(told, store, options.out)
    const timeline = layoutLesson(lesson)
    return {
      title: lesson.title,
      length: timeline.length,
      steps: timeline.steps.map(({ step, start, end }) => ({
        id: step.id,
        title: step.title,
        script: step.script,
        start,
        end,
      })),
      notes: [
        ...pictures.flatMap(({ name, note }) => (note ? [`${name}: ${note}`] : [])),
        ...(found ? [misfit(readingFit(scriptRead, found))].filter((sentence) => sentence !== null) : []),
      ],
    }
  })
}

function frameAsked({ shape, lines, rate }: NewOptions): FrameSettings {
  const asked = frameSchema.safeParse({ shape, lines, rate })
  if (asked.success) return asked.data
  throw new UserError(
    `A video is ${FRAME_SHAPES.join(', ')} in shape, has ${FRAME_LINES.join(', ')} lines and ${FRAME_RATES.join(', ')} pictures a second; ${shape} with ${lines} lines and ${rate} pictures is none of these.`,
  )
}

async function importPictures(store: MediaStore, paths: readonly string[]): Promise<MediaInfo[]> {
  const pictures: MediaInfo[] = []
  for (const path of paths) {
    const media = await importFile(store, path)
    if (picturesOf(media).length === 0)
      throw new UserError(`There is nothing to see in this file: ${path}. Choose pictures, slides or a recording.`)
    pictures.push(media)
  }
  return pictures
}

async function findWords(
  store: MediaStore,
  assets: Assets,
  { media }: ImportedSound,
  script: string,
  language: string,
) {
  if (readScript(script).words.length === 0) return undefined
  return wordsOfTake(store, assets, { kind: 'align', media: media.hash, from: 0, to: media.length!, script, language })
}

/** The usual voice, or one that speaks the language. */
async function voiceFor(language: string): Promise<ReadingSettings> {
  if (language === 'en') return DEFAULT_READING
  const voices = await listVoices()
  const nearest = nearestLanguage(
    language,
    voices.map((one) => one.language),
  )
  const voice = voices.find((one) => one.language === nearest)
  return voice ? { ...DEFAULT_READING, voice: voice.id } : DEFAULT_READING
}

function readScripts(store: MediaStore, assets: Assets, scripts: readonly string[], settings: ReadingSettings) {
  return withWorkFolder(async (work) => {
    const around = scripts.join('\n')
    const read: { script: string; media: MediaInfo }[] = []
    for (const [i, script] of scripts.entries()) {
      const path = join(work, `reading-${i + 1}.wav`)
      await writeFile(path, writeWav([(await readAloud(script, settings, [], assets, { around })).samples], HOUSE_RATE))
      read.push({ script, media: await importFile(store, path) })
    }
    return read
  })
}

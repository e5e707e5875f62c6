import { firstWish, type PieceKind } from '@/core/compose/wish'
import { scriptsToRead, scriptToFind } from '@/core/lesson/firstLesson'
import type { MediaInfo } from '@/core/messages/media'
import { misfit, readingFit } from '@/core/narration/lay/readingFit'
import { DEFAULT_READING, type Pronunciation } from '@/core/narration/speechVoice'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { call } from '../api'
import { runJob } from '../jobs'

/** What a first lesson is made from, and what is to be made for it. */
export interface FirstWishes {
  course: string | null
  title: string
  pictures: readonly MediaInfo[]
  voices: readonly MediaInfo[]
  music: readonly MediaInfo[]
  script: string | undefined
  language: string
  /** Whether pages that a deck leaves out are shown. */
  withHidden: boolean
  /** Whether a synthesised voice reads what nobody has said, and which; null: the usual one. */
  hasStandIns: boolean
  voice: string | null
  /** A piece to be made; null: none. */
  piece: PieceKind | null
}

/** A wait between two steps' words, about. */
const BETWEEN: Seconds = 1.5

/**
 * Has made what is still wanted, and then the lesson; returns its id. Tells what it is at. Null where the reading doesn't fit
 * its script and the author, being asked, would rather not.
 */
export async function makeFirstLesson(
  wishes: FirstWishes,
  onStage: (stage: string, share: number) => void,
  ask: (what: string) => Promise<boolean>,
): Promise<string | null> {
  const { course, title, pictures, voices, music, script, language, withHidden, piece } = wishes
  const found = await findWords(wishes, (share) => onStage(say('home.findingTheWordsOf'), share))
  const doubt = found && misfit(readingFit(scriptToFind(wishes), found))
  if (doubt && !(await ask(doubt))) return null
  const standIns = await readScripts(wishes, (share) => onStage(say('home.readingTheWordsWith'), share))
  const length = [...voices, ...standIns.map(({ media }) => media)].reduce(
    (sum, one) => sum + (one.length ?? 0) + BETWEEN,
    0,
  )
  const made = piece
    ? [
        await runJob<'compose'>({ kind: 'compose', wish: firstWish(piece, length) }, (share) =>
          onStage(say('home.makingTheMusic'), share),
        ),
      ]
    : []
  const composed = made.map(({ info }) => info.hash)
  const body = {
    course,
    title,
    pictures: hashes(pictures),
    voices: hashes(voices),
    music: [...hashes(music), ...composed],
    made: composed,
    script,
    language,
    withHidden,
    found,
    standIns: standIns.map(({ script: words, media }) => ({ script: words, media: media.hash })),
  }
  return (await call<{ id: string }>('/api/lessons', { body })).id
}

const hashes = (infos: readonly MediaInfo[]) => infos.map(({ hash }) => hash)

/** Where the script is said in the one long reading; several recordings are laid a step each. */
async function findWords(wishes: FirstWishes, onProgress: (share: number) => void) {
  const [reading, ...others] = wishes.voices
  const script = scriptToFind(wishes)
  if (!reading || others.length > 0 || script.trim() === '') return undefined
  const { hash: media, length } = reading
  return runJob<'align'>({ kind: 'align', media, from: 0, to: length!, script, language: wishes.language }, onProgress)
}

async function readScripts(wishes: FirstWishes, onProgress: (share: number) => void) {
  if (!wishes.hasStandIns) return []
  const scripts = scriptsToRead(wishes)
  const path = `/api/courses/${wishes.course}/pronunciations`
  const pronunciations = wishes.course ? await call<Pronunciation[]>(path) : []
  const reading = { ...DEFAULT_READING, ...(wishes.voice && { voice: wishes.voice }) }
  const around = scripts.join('\n')
  let done = 0
  return Promise.all(
    scripts.map(async (script) => {
      const { info } = await runJob<'read'>({ kind: 'read', script, around, reading, pronunciations })
      onProgress(++done / scripts.length)
      return { script, media: info }
    }),
  )
}

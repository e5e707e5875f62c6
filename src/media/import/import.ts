import { copyFile, link, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { stat } from 'node:fs/promises'
import sharp from 'sharp'
import { LIMITS } from '@/core/lesson/limits'
import type { MediaInfo } from '@/core/messages/media'
import { analysisLength, type Analysis } from '@/core/measure/analysis'
import { integratedLoudness } from '@/core/measure/loudness'
import { cutText, storableText } from '@/core/text'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { probeFile, type Probe } from '../ffmpeg'
import { identifyFile, type FileIdentity } from './identify'
import { cutOffNote, importSound, silencedNote, type SoundOptions } from './sound'
import { importDeck, type DeckPage } from './decks/deck'
import { importStill } from './stills'
import { hashFile, PARTS, type MediaStore } from '../store/store'
import { importRecording } from '../video/recording'

/** Raised when the same file comes to be imported otherwise. */
export const IMPORT_EDITION = 7

export interface ImportOptions extends Pick<SoundOptions, 'keepSides'> {
  signal?: AbortSignal
  /** Whether the file is somebody's own, who may change it later: then it is copied. Otherwise it is linked, which costs no room. */
  isOwn?: boolean
  /** 0..1 */
  onProgress?: (share: number) => void
}

type Findings = Omit<MediaInfo, 'hash' | 'name' | 'extension' | 'bytes'>

/**
 * Takes a file into the store: what it is, what it shows, how it sounds. The same content is kept once.
 * Throws a UserError where the file can't be used; the store is then as it was.
 */
export async function importMedia(
  store: MediaStore,
  path: string,
  called: string,
  options: ImportOptions = {},
): Promise<MediaInfo> {
  const name = cutText(storableText(called), LIMITS.nameCharacters)
  const identity = await identifyFile(path, name)
  const hash = await hashFile(path)
  // Kept under the name by which it first came; whoever brings it now calls it by another.
  if (await store.has(hash)) return { ...(await store.info(hash)), name }
  const draft = await store.draft()
  try {
    const findings = await examine(path, name, identity, draft.folder, options)
    const info = { hash, name, extension: identity.extension, bytes: (await stat(path)).size, ...findings }
    await (options.isOwn ? copyFile : linkOrCopy)(path, join(draft.folder, PARTS.original))
    await writeFile(join(draft.folder, PARTS.info), JSON.stringify(info))
    await draft.keep(hash)
    return info
  } catch (error) {
    await draft.drop()
    throw error
  }
}

async function examine(
  path: string,
  name: string,
  identity: FileIdentity,
  folder: string,
  options: ImportOptions,
): Promise<Findings> {
  const base = {
    length: null,
    channels: 0,
    soundTracks: [],
    soundTrack: 0,
    ...NO_PAGES,
    lastPicture: null,
    ...NO_REMARKS,
  }
  if (identity.kind === 'still') {
    if (identity.extension === 'gif' && (await moves(path))) return examineTimed(path, name, 'gif', folder, options)
    return { ...base, kind: 'still', ...(await importStill(path, identity.extension, name, folder)) }
  }
  if (identity.kind === 'deck') {
    const { pages, note } = await importDeck(path, identity.extension, name, folder, options)
    return { ...base, kind: 'deck', ...tellPages(pages), note }
  }
  return examineTimed(path, name, identity.demuxer!, folder, options)
}

const NO_REMARKS = { sides: null, hum: null, note: null }
const NO_PAGES = { pages: [], texts: [], notes: [], hidden: [], darkPages: [], labels: [] }

const tellPages = (pages: readonly DeckPage[]) => ({
  pages: pages.map(({ title }) => title),
  texts: pages.map(({ text }) => text),
  notes: pages.some(({ notes }) => notes) ? pages.map(({ notes }) => notes) : [],
  hidden: pages.flatMap(({ isHidden }, i) => (isHidden ? [i + 1] : [])),
  labels: pages.some(({ label }) => label) ? pages.map(({ label }) => label) : [],
  darkPages: pages.flatMap(({ isDark }, i) => (isDark ? [i + 1] : [])),
})

/** Whether a file of pictures has several that follow each other. */
const moves = async (path: string): Promise<boolean> =>
  ((
    await sharp(path, { limitInputPixels: false })
      .metadata()
      .catch(() => null)
  )?.pages ?? 1) > 1

/** Sound or recording: a container may hold either, whatever its ending says. */
async function examineTimed(
  path: string,
  name: string,
  demuxer: string,
  folder: string,
  options: ImportOptions,
): Promise<Findings> {
  const probe = await probeFile(path, demuxer, name)
  if (!probe.picture) return examineSound(path, name, demuxer, probe, folder, options)
  const half = (from: number) => ({ ...options, onProgress: (share: number) => options.onProgress?.(from + share / 2) })
  const sound = probe.sound && (await importSound(path, demuxer, name, probe, folder, half(0)))
  const heard = sound ? analysisLength(sound.analysis) : 0
  const { length, lastPicture, isDark } = await importRecording(path, demuxer, name, probe, folder, heard, half(0.5))
  const audible = sound && sound.analysis.samples > 0
  return {
    kind: 'recording',
    length,
    lastPicture,
    channels: audible ? sound.analysis.channels : 0,
    ...tellTracks(probe),
    ...NO_PAGES,
    darkPages: isDark ? [1] : [],
    sides: sound ? sound.sides : null,
    hum: sound ? sound.hum : null,
    note: notes(cutOffNote(probe.length, length), silencedNote(sound?.silenced ?? 0)),
  }
}

const tellTracks = ({ soundTracks, soundTrack }: Probe) => ({
  soundTracks: soundTracks.length > 1 ? soundTracks.map((name) => cutText(storableText(name), 60)) : [],
  soundTrack,
})

const notes = (...all: (string | null)[]): string | null => all.filter(Boolean).join(' ') || null

async function examineSound(
  path: string,
  name: string,
  demuxer: string,
  probe: Probe,
  folder: string,
  options: ImportOptions,
): Promise<Findings> {
  if (!probe.sound) throw new UserError(say('imports.noSoundTrack', { name }))
  const { analysis, silenced, sides, hum } = await importSound(path, demuxer, name, probe, folder, options)
  refuseSilence(analysis, silenced, name)
  const length = analysisLength(analysis)
  return {
    kind: 'sound',
    length,
    lastPicture: null,
    channels: analysis.channels,
    ...tellTracks(probe),
    ...NO_PAGES,
    sides,
    hum,
    note: notes(cutOffNote(probe.length, length), silencedNote(silenced)),
  }
}

function refuseSilence(analysis: Analysis, silenced: number, name: string): void {
  if (analysis.samples === 0) throw new UserError(say('imports.soundOfNoLength', { name }))
  if (integratedLoudness(analysis.energy) === null && analysis.energy.every((energy) => energy < 1e-9)) {
    throw new UserError(say(silenced > 0 ? 'imports.soundIsDamaged' : 'imports.thereIsOnlySilence', { name }))
  }
}

/** A link costs no room; across file systems it has to be a copy. */
async function linkOrCopy(from: string, to: string): Promise<void> {
  await link(from, to).catch(() => copyFile(from, to))
}

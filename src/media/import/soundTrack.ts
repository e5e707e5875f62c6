import { join } from 'node:path'
import type { MediaInfo } from '@/core/messages/media'
import { inputOf, orDamaged } from '../ffmpeg'
import { CODING_MEMORY, runProgram } from '../process'
import { PARTS, type MediaStore } from '../store/store'
import { withWorkFolder } from '../store/workFolder'
import { identifyFile } from './identify'
import { importMedia, type ImportOptions } from './import'

/**
 * The same recording, heard by another of its sound tracks (from 0): a copy of the file that says so, as media of its own.
 * Nothing in it is coded anew.
 */
export const withSoundTrack = (store: MediaStore, media: string, track: number, options: ImportOptions = {}) =>
  importCopy(store, media, [...COPIED, '-disposition:a', '0', `-disposition:a:${track}`, 'default'], options)

/** The same sound or recording with both channels as they are in the file, whatever is wrong with them: media of its own. */
export async function asInFile(store: MediaStore, media: string, options: ImportOptions = {}): Promise<MediaInfo> {
  const { kind, soundTrack } = await store.info(media)
  const decoded = ['-map', `0:a:${soundTrack}`, '-c:a', 'pcm_f32le', '-rf64', 'auto']
  const args = kind === 'sound' ? decoded : [...COPIED, '-metadata', 'comment=channels as they are']
  return importCopy(store, media, args, { ...options, keepSides: true }, kind === 'sound' ? 'wav' : undefined)
}

const COPIED = ['-map', '0:v:0', '-map', '0:a', '-c', 'copy']

async function importCopy(
  store: MediaStore,
  media: string,
  streams: readonly string[],
  options: ImportOptions,
  ending?: string,
): Promise<MediaInfo> {
  const { name } = await store.info(media)
  const original = await store.local(media, PARTS.original)
  const { demuxer, extension } = await identifyFile(original, name)
  return withWorkFolder(async (work) => {
    const copy = join(work, `copy.${ending ?? (demuxer === 'mov' ? extension : 'mkv')}`)
    await orDamaged(name, () =>
      runProgram('ffmpeg', ['-v', 'error', '-nostdin', ...inputOf(original, demuxer!), ...streams, copy], {
        limit: 1800,
        memory: CODING_MEMORY,
        signal: options.signal,
      }),
    )
    return importMedia(store, copy, name, { ...options, isOwn: true })
  })
}

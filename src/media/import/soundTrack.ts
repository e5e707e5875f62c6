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
export async function withSoundTrack(
  store: MediaStore,
  media: string,
  track: number,
  options: ImportOptions = {},
): Promise<MediaInfo> {
  const { name } = await store.info(media)
  const original = await store.local(media, PARTS.original)
  const { demuxer, extension } = await identifyFile(original, name)
  return withWorkFolder(async (work) => {
    const copy = join(work, `copy.${demuxer === 'mov' ? extension : 'mkv'}`)
    const streams = ['-map', '0:v:0', '-map', '0:a', '-c', 'copy', '-disposition:a', '0']
    const args = ['-v', 'error', '-nostdin', ...inputOf(original, demuxer!), ...streams]
    await orDamaged(name, () =>
      runProgram('ffmpeg', [...args, `-disposition:a:${track}`, 'default', copy], {
        limit: 1800,
        memory: CODING_MEMORY,
        signal: options.signal,
      }),
    )
    return importMedia(store, copy, name, { ...options, isOwn: true })
  })
}

import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import { cueText } from '@/core/formats/captionFiles'
import { runProgram } from '../process'

const probeSchema = z.object({
  streams: z.array(z.object({ codec_type: z.string(), codec_name: z.string().optional() })),
  chapters: z.array(z.object({ start_time: z.coerce.number(), tags: z.object({ title: z.string() }) })),
})

/** What a finished video holds to be read: a file of its captions in `folder`, null where it has none, and its chapters. */
export async function textsInVideo(
  video: string,
  folder: string,
): Promise<{ captions: string | null; chapters: { title: string; start: number }[] }> {
  const asked = ['-v', 'error', '-show_entries', 'stream=codec_type,codec_name:chapter=start_time:chapter_tags=title']
  const probe = probeSchema.parse(
    JSON.parse((await runProgram('ffprobe', [...asked, '-of', 'json', video], { limit: 60 })).toString()),
  )
  const chapters = probe.chapters.map(({ start_time: start, tags: { title } }) => ({ title, start }))
  const track = probe.streams.find(({ codec_type: type }) => type === 'subtitle')
  if (!track) return { captions: null, chapters }
  const captions = join(folder, 'captions.vtt')
  const isVtt = track.codec_name === 'webvtt'
  const coding = ['-map', '0:s:0', ...(isVtt ? ['-c', 'copy'] : []), '-f', 'webvtt', 'pipe:1']
  const text = (await runProgram('ffmpeg', ['-v', 'error', '-i', video, ...coding], { limit: 300 })).toString()
  // Of other kinds of text ffmpeg writes `<` and `&` as they are.
  await writeFile(captions, isVtt ? text : inCues(text))
  return { captions, chapters }
}

const inCues = (file: string): string =>
  file
    .split('\n')
    .map((line) => (line.includes('-->') ? line : cueText([line])))
    .join('\n')

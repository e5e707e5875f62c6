import { join } from 'node:path'
import { z } from 'zod'
import { runProgram } from '../process'

const probeSchema = z.object({
  streams: z.array(z.object({ codec_type: z.string() })),
  chapters: z.array(z.object({ start_time: z.coerce.number(), tags: z.object({ title: z.string() }) })),
})

/** What a finished video holds to be read: a file of its captions in `folder`, null where it has none, and its chapters. */
export async function textsInVideo(
  video: string,
  folder: string,
): Promise<{ captions: string | null; chapters: { title: string; start: number }[] }> {
  const asked = ['-v', 'error', '-show_entries', 'stream=codec_type:chapter=start_time:chapter_tags=title']
  const probe = probeSchema.parse(
    JSON.parse((await runProgram('ffprobe', [...asked, '-of', 'json', video], { limit: 60 })).toString()),
  )
  const chapters = probe.chapters.map(({ start_time: start, tags: { title } }) => ({ title, start }))
  if (!probe.streams.some(({ codec_type }) => codec_type === 'subtitle')) return { captions: null, chapters }
  const captions = join(folder, 'captions.vtt')
  await runProgram('ffmpeg', ['-v', 'error', '-y', '-i', video, '-map', '0:s:0', '-f', 'webvtt', captions], {
    limit: 300,
  })
  return { captions, chapters }
}

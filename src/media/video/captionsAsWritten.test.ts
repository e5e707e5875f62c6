import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { writeSrt, writeVtt } from '@/core/formats/captionFiles'
import { runProgram } from '../process'
import { recode } from './recode'
import { textsInVideo } from './textsInVideo'

/** What programs that are not ours read of a caption file, and what comes into a video: the words as they were written. */

const LINES = ['x < y and 3 < 4 & so on', 'tie a <b> to {\\an8} and </i> &amp; {this}']
const CAPTIONS = [{ start: 0.5, end: 2, lines: LINES }]

let folder: string
beforeAll(async () => (folder = await mkdtemp(join(tmpdir(), 'yarn-step-captions-'))))
afterAll(() => rm(folder, { recursive: true }))

/** As timed text of MPEG-4 (3GPP TS 26.245): two bytes of length, the words, and boxes of styles where there are any. */
async function inVideo(name: string, text: string): Promise<{ words: string; styles: number }> {
  const [file, video] = [join(folder, name), join(folder, `${name}.mp4`)]
  await writeFile(file, text)
  await runProgram('ffmpeg', ['-v', 'error', '-i', file, '-c:s', 'mov_text', video], { limit: 30 })
  const raw = ['-v', 'error', '-i', video, '-map', '0:s', '-c', 'copy', '-f', 'data', 'pipe:1']
  const bytes = await runProgram('ffmpeg', raw, { limit: 30 })
  // Before and after it stand empty ones.
  const from = bytes.findIndex((value, i) => bytes.readUInt16BE(i) > 2 && value === 0)
  const length = bytes.readUInt16BE(from)
  const words = bytes.subarray(from + 2, from + 2 + length).toString('utf8')
  return { words: words.replaceAll('\u2060', ''), styles: bytes.indexOf('styl') }
}

test('in a video there are the very words, and no styles', async () => {
  expect(await inVideo('lesson.srt', writeSrt(CAPTIONS))).toEqual({ words: LINES.join('\n'), styles: -1 })
})

test('what is read out of a finished video, or of its other codings, is WebVTT of the very words', async () => {
  const [srt, vtt, video] = ['c.srt', 'c.vtt', 'c.mp4'].map((name) => join(folder, name)) as [string, string, string]
  await writeFile(srt, writeSrt(CAPTIONS))
  await writeFile(vtt, writeVtt(CAPTIONS))
  const pictures = ['-f', 'lavfi', '-i', 'color=red:size=64x64:rate=30:duration=3']
  const sound = ['-f', 'lavfi', '-i', 'sine=duration=3']
  const all = [...pictures, ...sound, '-i', srt, '-c:s', 'mov_text', '-metadata:s:s', 'language=deu']
  await runProgram('ffmpeg', ['-v', 'error', ...all, video], { limit: 30 })
  const files = [video]
  for (const coding of ['webm', 'small'] as const) files.push((await recode(video, coding, vtt, folder, 3, {})).file)
  for (const file of files) {
    const { captions } = await textsInVideo(file, folder)
    const written = (await readFile(captions!, 'utf8')).replaceAll('\u2060', '')
    expect(written).toContain(
      'x &lt; y and 3 &lt; 4 &amp; so on\ntie a &lt;b&gt; to {\\an8} and &lt;/i&gt; &amp;amp; {this}',
    )
    const shown = ['-v', 'error', '-select_streams', 's', '-show_entries', 'stream_tags=language', '-of', 'csv=p=0']
    expect((await runProgram('ffprobe', [...shown, file], { limit: 30 })).toString()).toContain('deu')
  }
})

import { readdir, readFile, rm } from 'node:fs/promises'
import { join } from 'node:path'
import sharp from 'sharp'
import type { Chapter } from '@/core/captions/chapters'
import { bytesOf, entriesOf, openZip } from '@/media/zip'
import { headless, output, scratch } from './support/application'
import { makeSmallLesson, type SmallStep } from './support/smallLesson'

/** What is delivered, made by the headless command and opened by an independent program. */

const folder = scratch()
const at = (name: string) => join(folder, name)
const SCRIPT = [
  'Before you cross the bar of Skerrow Harbour, watch it for five minutes from the lee of the breakwater.',
  'White water means that you wait. If you hear the bell, stay where you are, and call the harbour office.',
]
let steps: SmallStep[]
const lesson = () => at('lesson.zip')

beforeAll(async () => {
  const pictures = [
    ['bar', '#12475a'],
    ['bell', '#5a1247'],
  ] as const
  ;({ steps } = await makeSmallLesson(folder, pictures, SCRIPT))
})

interface Cue {
  start: number
  end: number
  lines: string[]
}
interface Probe {
  streams: {
    codec_name: string
    codec_type: string
    start_time?: string
    duration?: string
    tags?: Record<string, string>
  }[]
  format: { duration: string; tags?: Record<string, string> }
  chapters: { start_time: string; end_time: string; tags: { title: string } }[]
}
const probe = async (file: string) =>
  JSON.parse(
    await output('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-show_chapters', '-of', 'json', file]),
  ) as Probe

test('captions are read by another program as they were made, and say every word', async () => {
  const files = await Promise.all(
    ['vtt', 'srt', 'ttml'].map(async (ending) => {
      const { captions } = (await headless('captions', lesson(), '--out', at(`c.${ending}`))) as { captions: Cue[] }
      return captions
    }),
  )
  const [cues] = files as [Cue[], Cue[], Cue[]]
  expect(cues.flatMap(({ lines }) => lines.join(' ').split(' '))).toEqual(SCRIPT.join(' ').split(' '))
  for (const { start, end, lines } of cues) {
    expect(Math.max(...lines.map((line) => line.length))).toBeLessThanOrEqual(42)
    expect(end - start).toBeGreaterThan(0.9)
  }
  for (const ending of ['vtt', 'srt']) {
    const read = await output('ffmpeg', ['-v', 'error', '-i', at(`c.${ending}`), '-f', 'srt', 'pipe:1'])
    expect(read.match(/-->/g)).toHaveLength(cues.length)
    expect(read.replaceAll('\r', '')).toContain(cues[0]!.lines.join('\n'))
  }
  const ttml = await readFile(at('c.ttml'), 'utf8')
  expect(ttml.match(/<p /g)).toHaveLength(cues.length)
  expect(ttml).toContain('ttp:timeBase="media"')
  await output('xmllint', ['--noout', at('c.ttml')]).catch((error: Error & { code?: string }) => {
    if (error.code !== 'ENOENT') throw error
  })
})

test('chapters and transcript have the steps', async () => {
  const { chapters } = (await headless('chapters', lesson(), '--out', at('ch.txt'))) as { chapters: Chapter[] }
  expect(chapters.map(({ title, start }) => [title, start])).toEqual(steps.map(({ title, start }) => [title, start]))
  expect(await readFile(at('ch.txt'), 'utf8')).toMatch(/^00:00 Bar\n00:0\d Bell\n$/)
  await headless('transcript', lesson(), '--out', at('t.html'), '--times')
  const page = await readFile(at('t.html'), 'utf8')
  for (const words of SCRIPT) expect(page).toContain(words)
  await expect(headless('transcript', lesson(), '--out', at('t.html'), '--pictures')).rejects.toThrow(/end in \.docx/)
  // The second in which the chapter has begun.
  const second = Math.ceil(steps[1]!.start - 1e-6)
  expect(await readFile(at('ch.txt'), 'utf8')).toContain(`00:${String(second).padStart(2, '0')} Bell`)
  expect(page).toMatch(/<h2><time>00:00:00<\/time> Bar<\/h2>/)
})

test('a transcript as a document has the words, the times and the picture of each step', async () => {
  await headless('transcript', lesson(), '--out', at('t.docx'), '--times', '--pictures')
  const zip = await openZip(at('t.docx'))
  const entries = await entriesOf(zip, 100, (why) => new Error(why))
  const text = String(await bytesOf(zip, entries.get('word/document.xml')!)).replace(/<[^>]+>/g, '|')
  expect(String(await bytesOf(zip, entries.get('docProps/core.xml')!))).not.toContain('Un-named')
  for (const words of [...SCRIPT, '00:00:00', 'Bar', 'Bell']) expect(text).toContain(words)
  const images = [...entries.keys()].filter((name) => name.startsWith('word/media/') && !name.endsWith('/'))
  expect(images).toHaveLength(steps.length)
  const seen = await Promise.all(
    images.map(async (name) => {
      const { dominant } = await sharp(await bytesOf(zip, entries.get(name)!)).stats()
      return [dominant.r, dominant.g, dominant.b].map((value) => Math.round(value / 64)).join()
    }),
  )
  zip.close()
  // Each of another colour.
  expect(new Set(seen).size).toBe(steps.length)
})

test('a video has its title, its language, its chapters, and captions that can be switched on', async () => {
  const made = await headless('render', lesson(), '--out', at('l.mp4'), '--sheet', at('sheet.json'))
  const sheet = JSON.parse(await readFile(at('sheet.json'), 'utf8')) as Record<string, unknown>
  expect(sheet).toMatchObject({ lesson: 'Bar', file: 'l.mp4', loudness: (made as { loudness: number }).loudness })
  const { streams, format, chapters } = await probe(at('l.mp4'))
  expect(format.tags?.title).toBe('Bar')
  const kinds = streams.filter(({ codec_type: type }) => type !== 'data').map(({ codec_name: codec }) => codec)
  expect(kinds).toEqual(['h264', 'aac', 'mov_text'])
  for (const { tags } of streams.slice(0, 3)) expect(tags?.language).toBe('eng')
  expect(chapters.map(({ tags }) => tags.title)).toEqual(steps.map(({ title }) => title))
  chapters.forEach(({ start_time: start }, i) => expect(Math.abs(Number(start) - steps[i]!.start)).toBeLessThan(0.002))
  const cues = await output('ffmpeg', ['-v', 'error', '-i', at('l.mp4'), '-map', '0:s', '-f', 'webvtt', 'pipe:1'])
  const wanted = await readFile(at('c.vtt'), 'utf8')
  expect(cues.match(/-->/g)).toHaveLength(wanted.match(/-->/g)!.length)
  // The picture is as long as the sound, to the frame.
  expect(Math.abs(Number(streams[0]!.duration) - Number(streams[1]!.duration))).toBeLessThan(1 / 30)
})

test.each([
  ['wav', 'pcm_s24le', false],
  ['flac', 'flac', true],
  ['mp3', 'mp3', true],
  ['m4a', 'aac', true],
  ['opus', 'opus', true],
])('the sound alone as %s is that, with its title and chapters', async (ending, codec, hasChapters) => {
  const sheet = (await headless('render', lesson(), '--out', at(`l.${ending}`))) as { loudness: number }
  const { streams, format, chapters } = await probe(at(`l.${ending}`))
  expect(streams[0]!.codec_name).toBe(codec)
  const tags = Object.entries({ ...format.tags, ...streams[0]!.tags }).map(([name, value]) => [
    name.toLowerCase(),
    value,
  ])
  const language: Record<string, string> = { wav: 'en-gb', flac: 'en-gb', mp3: 'eng', m4a: 'eng', opus: 'en-gb' }
  expect(Object.fromEntries(tags)).toMatchObject({ title: 'Bar', language: language[ending] })
  expect(Math.abs(Number(format.duration) - steps.at(-1)!.end)).toBeLessThan(0.06)
  if (hasChapters) {
    expect(chapters.map((one) => one.tags.title)).toEqual(steps.map(({ title }) => title))
    chapters.forEach((one, i) => expect(Math.abs(Number(one.start_time) - steps[i]!.start)).toBeLessThan(0.002))
  }
  const loudness = await loudnessOf(at(`l.${ending}`))
  expect(Math.abs(loudness - sheet.loudness)).toBeLessThan(0.3)
})

/** As ffmpeg measures it. */
async function loudnessOf(file: string): Promise<number> {
  const measured = await output('sh', ['-c', `ffmpeg -nostats -i ${file} -af ebur128 -f null - 2>&1`])
  return Number(/I:\s+(-?[\d.]+) LUFS\s*$/m.exec(measured.slice(measured.lastIndexOf('Integrated')))![1])
}

const framesOf = async (file: string): Promise<number> =>
  Number(
    await output('ffprobe', [
      ...['-v', 'error', '-select_streams', 'v', '-count_frames'],
      ...['-show_entries', 'stream=nb_read_frames', '-of', 'csv=p=0', file],
    ]),
  )

test.each([
  ['w.webm', [], ['vp9', 'opus', 'webvtt'], 1080],
  ['p.mp4', ['--preset', 'phone'], ['h264', 'aac', 'mov_text'], 540],
  ['v.mp4', ['--preset', 'video-site'], ['h264', 'aac', 'mov_text'], 1080],
])('%s %j is what it says, as long and as loud as it ought to be', async (file, wishes, codecs, lines) => {
  const sheet = (await headless('render', lesson(), '--out', at(file), ...wishes)) as { loudness: number }
  const { streams, format, chapters } = await probe(at(file))
  expect(streams.filter(({ codec_type: type }) => type !== 'data').map((one) => one.codec_name)).toEqual(codecs)
  expect((streams[0] as unknown as { height: number }).height).toBe(lines)
  expect(chapters.map((one) => one.tags.title)).toEqual(steps.map(({ title }) => title))
  expect(await framesOf(at(file))).toBe(await framesOf(at('l.mp4')))
  expect(Object.keys(format.tags!).filter((tag) => /brand|minor_version/i.test(tag))).toHaveLength(
    codecs[0] === 'vp9' ? 0 : 3,
  )
  // Picture and sound begin together; what a coder puts before its first sample is before the beginning.
  expect(Number(streams[0]!.start_time)).toBe(0)
  expect(Number(streams[1]!.start_time)).toBeLessThanOrEqual(0)
  const cues = await output('ffmpeg', ['-v', 'error', '-i', at(file), '-map', '0:s', '-f', 'webvtt', 'pipe:1'])
  expect(cues.match(/-->/g)).toHaveLength((await readFile(at('c.vtt'), 'utf8')).match(/-->/g)!.length)
  const loudness = await loudnessOf(at(file))
  expect(Math.abs(loudness - sheet.loudness)).toBeLessThan(0.3)
  expect(Math.abs(loudness - (file === 'v.mp4' ? -14 : -16))).toBeLessThan(0.3)
})

test('captions in the picture are there while they are said, and nothing else is otherwise', async () => {
  await headless('render', lesson(), '--out', at('burnt.mp4'), '--preset', 'captions-in-picture')
  const { streams } = await probe(at('burnt.mp4'))
  expect(streams.some(({ codec_type: type }) => type === 'subtitle')).toBe(false)
  const { captions } = (await headless('captions', lesson(), '--out', at('c2.vtt'))) as { captions: Cue[] }
  const [{ start, end }, last] = [captions[0]!, captions.at(-1)!]
  const frame = async (file: string, time: number) => {
    await output('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-ss',
      String(time),
      '-i',
      at(file),
      '-frames:v',
      '1',
      at('frame.png'),
    ])
    return sharp(at('frame.png')).greyscale().raw().toBuffer()
  }
  /** Mean difference of a part of the picture, by rows. */
  const difference = async (time: number, from: number, to: number) => {
    const [a, b] = [await frame('l.mp4', time), await frame('burnt.mp4', time)]
    let sum = 0
    for (let i = from * 1920; i < to * 1920; i++) sum += Math.abs(a[i]! - b[i]!)
    return sum / ((to - from) * 1920)
  }
  const middle = (start + end) / 2
  expect(await difference(middle, 860, 1040)).toBeGreaterThan(10)
  expect(await difference(middle, 0, 800)).toBeLessThan(1)
  expect(await difference(last.end + 0.3, 0, 1080)).toBeLessThan(1)
})

test('a step by itself is that part of the whole, to the frame and to the sample', async () => {
  await headless('render', lesson(), '--out', at('whole.wav'))
  await headless('render', lesson(), '--out', at('step.wav'), '--step', '2')
  await headless('render', lesson(), '--out', at('step.mp4'), '--step', '2')
  const { start, end } = steps[1]!
  const [from, to] = [Math.round(start * 30), Math.min(await framesOf(at('l.mp4')), Math.round(end * 30))]
  expect(await framesOf(at('step.mp4'))).toBe(to - from)
  const [whole, part] = [await readFile(at('whole.wav')), await readFile(at('step.wav'))]
  const sampleBytes = 6 // two channels of 24 bit
  const samples = (bytes: Buffer) => bytes.subarray(bytes.indexOf('data') + 8)
  const wanted = samples(whole).subarray(from * 1600 * sampleBytes, to * 1600 * sampleBytes)
  expect(samples(part).subarray(0, wanted.length).equals(wanted)).toBe(true)
  const { chapters } = await probe(at('step.mp4'))
  expect(chapters.map(({ tags, start_time: begins }) => [tags.title, Number(begins)])).toEqual([['Bell', 0]])
  const cues = await output('ffmpeg', ['-v', 'error', '-i', at('step.mp4'), '-map', '0:s', '-f', 'webvtt', 'pipe:1'])
  expect(cues.replace(/\s+/g, ' ')).toContain('White water means that you wait.')
  expect(cues).not.toContain('Skerrow')
})

test('a poster is the picture of its step, and a moving picture moves', async () => {
  await headless('render', lesson(), '--out', at('poster.png'), '--step', '2')
  const { data, info } = await sharp(at('poster.png')).raw().toBuffer({ resolveWithObject: true })
  expect([info.width, info.height]).toEqual([1920, 1080])
  const middle = (540 * 1920 + 960) * info.channels
  ;[0x5a, 0x12, 0x47].forEach((value, i) => expect(Math.abs(data[middle + i]! - value)).toBeLessThan(6))
  await headless('render', lesson(), '--out', at('moves.gif'))
  const { pages, width } = await sharp(at('moves.gif')).metadata()
  expect(pages).toBeGreaterThan(1)
  expect(width).toBe(800)
})

test('a course is made into a folder; what has not changed stays as it is', async () => {
  const course = () =>
    headless(
      'course',
      lesson(),
      lesson(),
      '--out-dir',
      at('course'),
      '--make',
      'transcript-txt',
      'opus',
      '--title',
      'Basics',
    )
  expect(await course()).toMatchObject({ made: 4, unchanged: 0 })
  const names = ['Bar 2.opus', 'Bar, transcript 2.txt', 'Bar, transcript.txt', 'Bar.opus']
  expect((await readdir(at('course'))).sort()).toEqual([...names, 'made.json', 'measured.html', 'measured.json'])
  expect(await readFile(at('course/measured.html'), 'utf8')).toContain('<h1>Basics</h1>')
  await rm(at('course/Bar.opus'))
  expect(await course()).toMatchObject({ made: 1, unchanged: 3 })
  expect((await probe(at('course/Bar.opus'))).streams[0]!.codec_name).toBe('opus')
  await expect(headless('course', lesson(), '--out-dir', at('course'), '--make', 'moon')).rejects.toThrow(
    /can't be made/,
  )
})

test('what can not be made is told in a sentence', async () => {
  const render = (...wishes: string[]) => headless('render', lesson(), '--out', at('x.mp4'), ...wishes)
  await expect(render('--step', '9')).rejects.toThrow(/has 2 steps; there is none with the number 9/)
  await expect(render('--from', '500')).rejects.toThrow(/is no part of this lesson/)
  await expect(render('--step', '1', '--to', '3')).rejects.toThrow(/either a step or a stretch/)
  await expect(render('--preset', 'moon')).rejects.toThrow(/no preset "moon"/)
})

test('an ending that nothing can be made of is told', async () => {
  await expect(headless('render', lesson(), '--out', at('l.avi'))).rejects.toThrow(/has to end in one of \.mp4/)
  await expect(headless('captions', lesson(), '--out', at('c.doc'))).rejects.toThrow(/has to end in one of \.vtt/)
})

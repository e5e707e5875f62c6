import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp, { type Sharp } from 'sharp'
import type { Lesson, Picture } from '@/core/lesson/document'
import { emptyLesson, newRecording, newStep, newStill } from '@/core/lesson/newParts'
import { USUAL_FRAME, USUAL_FRAMING, type FrameSettings, type Framing } from '@/core/lesson/framing'
import { newLayer, type Layer } from '@/core/lesson/layers'
import { importMedia } from '../import/import'
import { soundsOf } from '../lessonMedia'
import { runProgram } from '../process'
import { openAssets } from '../store/assets'
import { folderObjects } from '../store/folderObjects'
import { openStore, type MediaStore } from '../store/store'
import { renderVideo } from './render'

/** Videos of other shapes, sizes and rates, and how pictures stand in them, looked at in the finished file. */

let folder: string
let store: MediaStore
const media: Record<string, string> = {}

/** Left third red, middle third green, right third blue; wider than any frame. */
const thirds = (width: number, height: number) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="34%" height="100%" fill="#c81e3c"/><rect x="33.4%" width="34%" height="100%" fill="#1ea03c"/><rect x="66.7%" width="34%" height="100%" fill="#1e3cc8"/></svg>`,
  )
const RED = [200, 30, 60]
const GREEN = [30, 160, 60]
const BLUE = [30, 60, 200]

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-shapes-'))
  store = openStore(folderObjects(join(folder, 'media')))
  const take = async (name: string, source: Sharp) => {
    await source.png().toFile(join(folder, `${name}.png`))
    media[name] = (await importMedia(store, join(folder, `${name}.png`), `${name}.png`)).hash
  }
  await take('thirds', sharp(thirds(1200, 400)))
  await take('upright', sharp(thirds(400, 900)))
  // White letters of a pixel's width, as a drawing program leaves them: on nothing.
  const light =
    '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400"><rect x="150" y="150" width="100" height="100" fill="#fff"/></svg>'
  await take('light', sharp(Buffer.from(light)))
  await take('dark', sharp({ create: { width: 400, height: 400, channels: 3, background: '#101010' } }))
  const stripes =
    '<svg xmlns="http://www.w3.org/2000/svg" width="3840" height="2160"><defs><pattern id="p" width="4" height="4" patternUnits="userSpaceOnUse"><rect width="2" height="4" fill="#000"/><rect x="2" width="2" height="4" fill="#fff"/></pattern></defs><rect width="3840" height="2160" fill="url(#p)"/></svg>'
  await take('stripes', sharp(Buffer.from(stripes)))
  const film = join(folder, 'film.mp4')
  await sharp(thirds(400, 900)).png().toFile(join(folder, 'film.png'))
  const args = ['-v', 'error', '-loop', '1', '-framerate', '60', '-i', join(folder, 'film.png'), '-t', '2']
  const colours = 'scale=out_color_matrix=bt709,format=yuv420p'
  await runProgram('ffmpeg', [...args, '-vf', colours, '-c:v', 'libx264', film], { limit: 60 })
  media.film = (await importMedia(store, film, 'film.mp4')).hash
})
afterAll(() => rm(folder, { recursive: true, force: true }))

function lessonOf(picture: Picture, frame: Partial<FrameSettings>, framing: Partial<Framing> = {}): Lesson {
  return {
    ...emptyLesson('Shapes'),
    steps: [{ ...newStep('s', '', picture), length: { kind: 'fixed', length: 1 } }],
    frame: { ...USUAL_FRAME, ...frame },
    framing: { ...USUAL_FRAMING, ...framing },
  }
}

interface Video {
  width: number
  height: number
  rate: string
  frames: number
  level: number
  /** Of its middle picture, at a place in shares of it. */
  at: (x: number, y: number) => number[]
  /** One of its rows. */
  row: (y: number) => number[]
}

async function videoOf(lesson: Lesson): Promise<Video> {
  const out = join(folder, `${Math.random()}.mp4`)
  await renderVideo(lesson, store, await soundsOf(lesson, store), openAssets(folderObjects(join(folder, 'coded'))), out)
  const asked = ['-count_packets', '-show_entries', 'stream=width,height,avg_frame_rate,nb_read_packets,level']
  const told = await runProgram('ffprobe', ['-v', 'error', '-select_streams', 'v', ...asked, '-of', 'json', out], {
    limit: 60,
  })
  const { width, height, avg_frame_rate, nb_read_packets, level } = JSON.parse(told.toString()).streams[0]
  const picture = ['-ss', '0.5', '-frames:v', '1', '-vf', 'scale=in_color_matrix=bt709:in_range=tv,format=rgb24']
  const raw = await runProgram('ffmpeg', ['-v', 'error', '-i', out, ...picture, '-f', 'rawvideo', 'pipe:1'], {
    limit: 60,
    memory: 4e9,
  })
  const pixel = (x: number, y: number) => [...raw.subarray((y * width + x) * 3, (y * width + x) * 3 + 3)]
  return {
    ...{ width, height, level, rate: avg_frame_rate, frames: Number(nb_read_packets) },
    at: (x, y) => pixel(Math.round(x * (width - 1)), Math.round(y * (height - 1))),
    row: (y) => Array.from({ length: width }, (_, x) => pixel(x, Math.round(y * (height - 1)))[0]!),
  }
}

function expectNear(found: number[], wanted: number[], by = 6): void {
  expect(Math.max(...found.map((value, i) => Math.abs(value - wanted[i]!)))).toBeLessThanOrEqual(by)
}

test.each<[Partial<FrameSettings>, number, number, number]>([
  [{}, 1920, 1080, 40],
  [{ shape: '4:3', lines: 720, rate: 25 }, 960, 720, 40],
  [{ shape: '1:1', rate: 50 }, 1080, 1080, 42],
  [{ shape: '9:16', rate: 60 }, 1080, 1920, 42],
  [{ shape: '16:9', lines: 1440 }, 2560, 1440, 50],
])('a video is made as asked: %j', async (frame, width, height, level) => {
  const made = await videoOf(lessonOf(newStill(media.thirds!, 1), frame))
  const rate = frame.rate ?? 30
  expect(made).toMatchObject({ width, height, level, rate: `${rate}/1`, frames: rate })
  expectNear(made.at(0.5, 0.5), GREEN)
})

test('all of a picture is seen on plain ground, light or dark as it asks, or on the colour that was chosen', async () => {
  const light = await videoOf(lessonOf(newStill(media.thirds!, 1), { shape: '9:16', lines: 720 }))
  expectNear(light.at(0.5, 0.05), [255, 255, 255])
  expectNear(light.at(0.02, 0.5), RED)
  expectNear(light.at(0.98, 0.5), BLUE)
  for (const name of ['light', 'dark']) {
    const made = await videoOf(lessonOf(newStill(media[name]!, 1), { lines: 720 }))
    expectNear(made.at(0.02, 0.5), [22, 29, 41])
  }
  const coloured = await videoOf(
    lessonOf(newStill(media.thirds!, 1), { shape: '9:16', lines: 720 }, { ground: '#208040' }),
  )
  expectNear(coloured.at(0.5, 0.05), [32, 128, 64])
})

test.each<[number, number[]]>([
  [0, RED],
  [1, BLUE],
])(
  'a picture fills the frame with the part that was chosen (%d); its own choice goes before the lesson’s',
  async (x, colour) => {
    const framing: Framing = { way: 'fill', ground: 'plain', middle: { x, y: 0.5 } }
    const still = { ...newStill(media.thirds!, 1), framing }
    expectNear((await videoOf(lessonOf(still, { shape: '9:16', lines: 720 }))).at(0.5, 0.05), colour)
  },
)

test('a recording is shown with as many pictures as asked, filling the frame', async () => {
  const framing: Framing = { way: 'fill', ground: 'plain', middle: { x: 0.5, y: 1 } }
  const film = { ...newRecording(media.film!, 2), framing }
  const made = await videoOf(lessonOf(film, { lines: 720, rate: 60 }))
  expect(made).toMatchObject({ width: 1280, height: 720, frames: 60 })
  expectNear(made.at(0.05, 0.5), RED)
  expectNear(made.at(0.95, 0.5), BLUE)
})

test.each(['still', 'recording'])('a %s stands on itself, blurred', async (kind) => {
  const picture = kind === 'still' ? newStill(media.upright!, 1) : newRecording(media.film!, 2)
  const made = await videoOf(lessonOf(picture, { lines: 720 }, { ground: 'blurred' }))
  expectNear(made.at(0.1, 0.5), RED)
  expectNear(made.at(0.9, 0.5), BLUE)
  // In the picture its colours meet at a line, in the ground they run into each other.
  const between = (from: number, to: number) =>
    made.row(0.5).filter((red, x) => x > from * 1280 && x < to * 1280 && red > 60 && red < 170).length
  expect(between(0.2, 0.36)).toBeGreaterThan(20)
  expect(between(0.39, 0.49)).toBeLessThan(6)
})

test('a frame of more lines shows what the picture has, not what was kept for smaller ones', async () => {
  const contrast = (row: number[]) =>
    row.reduce((sum, value, i) => sum + Math.abs(value - (row[i - 2] ?? value)), 0) / row.length
  const fine = await videoOf(lessonOf(newStill(media.stripes!, 1), { lines: 2160 }))
  expect(fine).toMatchObject({ width: 3840, height: 2160, level: 51 })
  expect(contrast(fine.row(0.5))).toBeGreaterThan(200)
})

test.each<[Partial<FrameSettings>]>([[{}], [{ lines: 720 }], [{ shape: '9:16' }]])(
  'what lies over a picture is as large in every frame: %j',
  async (frame) => {
    const lesson = lessonOf({ kind: 'card', lines: [''] }, frame)
    lesson.steps[0]!.layers = [
      { ...newLayer('r', 'box'), area: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 } } as Layer,
    ]
    const { row, width, height } = await videoOf(lesson)
    const drawn = row(0.5).flatMap((red, x) => (red > 150 && red < 200 ? [x / width] : []))
    const [left, right] = [drawn.filter((x) => x < 0.5), drawn.filter((x) => x > 0.5)]
    for (const [side, place] of [
      [left, 0.25],
      [right, 0.75],
    ] as const) {
      // A stroke of 9.7 units of the shorter side's 1080.
      const stroke = (9.7 / 1080) * Math.min(width, height)
      expect(Math.abs(side.length - stroke)).toBeLessThan(2.5)
      expect(Math.abs((side[0]! + side.at(-1)!) / 2 - place)).toBeLessThan(0.002)
    }
  },
)

test('a slow move goes on for as long as it lasts, and does not go back', async () => {
  const lesson = lessonOf(newStill(media.thirds!, 1), { shape: '16:9' }, { way: 'fill' })
  const area = { x: 0.5, y: 0.5, width: 0.5, height: 0.5 }
  lesson.steps[0]!.layers = [{ ...newLayer('m', 'slow move'), area } as Layer]
  const out = join(folder, 'moving.mp4')
  await renderVideo(lesson, store, await soundsOf(lesson, store), openAssets(folderObjects(join(folder, 'coded'))), out)
  const places = 'scale=in_color_matrix=bt709:in_range=tv,format=rgb24,crop=1920:2:0:540'
  const raw = await runProgram('ffmpeg', ['-v', 'error', '-i', out, '-vf', places, '-f', 'rawvideo', 'pipe:1'], {
    limit: 60,
    memory: 4e9,
  })
  // Where blue begins, picture by picture: nearer to the left all the time, without a jump or a halt in between.
  const begins = Array.from({ length: 30 }, (_, i) => {
    const row = raw.subarray(i * 1920 * 6, i * 1920 * 6 + 1920 * 3)
    return Array.from({ length: 1920 }, (_, x) => x).find((x) => row[x * 3 + 2]! > 150 && row[x * 3 + 1]! < 100) ?? 1920
  })
  const steps = begins.slice(1).map((place, i) => begins[i]! - place)
  expect(begins[0]! - begins.at(-1)!).toBeGreaterThan(400)
  expect(Math.min(...steps)).toBeGreaterThanOrEqual(0)
  expect(Math.max(...steps)).toBeLessThan(60)
})

import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import type { Lesson, Picture } from '@/core/lesson/document'
import { emptyLesson, newRecording, newStep, newStill } from '@/core/lesson/newParts'
import { newLayer, type Layer, type LayerName } from '@/core/lesson/layers'
import { blockSize, pixelsOf } from '@/core/picture/raster'
import { importMedia } from '../import/import'
import { soundsOf } from '../lessonMedia'
import { runProgram } from '../process'
import { openAssets } from '../store/assets'
import { folderObjects } from '../store/folderObjects'
import { openStore, type MediaStore } from '../store/store'
import { renderVideo } from './render'

/** What lies over pictures and between them, looked at in the finished video. */

let folder: string
let store: MediaStore
const media: Record<string, string> = {}
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-over-'))
  store = openStore(folderObjects(join(folder, 'media')))
  for (const name of ['red', 'green']) media[name] = await still(name, name === 'red' ? '#c81e3c' : '#1ea03c')
  // Left half dark, right half light.
  const half = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="1920" height="1080"><rect width="1920" height="1080" fill="#202020"/><rect x="960" width="960" height="1080" fill="#e0e0e0"/></svg>',
  )
  await sharp(half).png().toFile(join(folder, 'half.png'))
  media.half = (await importMedia(store, join(folder, 'half.png'), 'half.png')).hash
  const film = [
    '-f',
    'lavfi',
    '-i',
    'color=0x1e3cc8:size=640x360:rate=30:duration=3',
    '-c:v',
    'libx264',
    join(folder, 'film.mp4'),
  ]
  await runProgram('ffmpeg', ['-v', 'error', ...film], { limit: 60 })
  media.film = (await importMedia(store, join(folder, 'film.mp4'), 'film.mp4')).hash
})
afterAll(() => rm(folder, { recursive: true, force: true }))

async function still(name: string, background: string): Promise<string> {
  const file = join(folder, `${name}.png`)
  await sharp({ create: { width: 1920, height: 1080, channels: 3, background } })
    .png()
    .toFile(file)
  return (await importMedia(store, file, `${name}.png`)).hash
}
const page = (name: string): Picture => newStill(media[name]!, 1)
const layer = (name: LayerName, part: Partial<Layer> = {}): Layer => ({ ...newLayer(name, name), ...part }) as Layer
function lessonOf(steps: { picture: Picture; length: number; layers?: Layer[] }[], part: Partial<Lesson> = {}): Lesson {
  return {
    ...emptyLesson('Over'),
    steps: steps.map(({ picture, length, layers = [] }, i) => ({
      ...newStep(`s${i}`, '', picture),
      length: { kind: 'fixed' as const, length },
      layers,
    })),
    ...part,
  }
}

const WIDTH = 96
const HEIGHT = 54
/** Each frame, much smaller, as a function from places in shares to a colour. */
async function framesOf(lesson: Lesson): Promise<((x: number, y: number) => number[])[]> {
  const out = join(folder, `${Math.random()}.mp4`)
  const drawn = { ...lesson, frame: { ...lesson.frame, lines: 720 as const } }
  await renderVideo(drawn, store, await soundsOf(lesson, store), openAssets(folderObjects(join(folder, 'coded'))), out)
  const small = `scale=in_color_matrix=bt709:in_range=tv,format=gbrp,scale=${WIDTH}:${HEIGHT}:flags=area,format=rgb24`
  const args = ['-v', 'error', '-i', out, '-vf', small, '-f', 'rawvideo', 'pipe:1']
  const raw = await runProgram('ffmpeg', args, { limit: 120, memory: 4e9 })
  const size = WIDTH * HEIGHT * 3
  return Array.from({ length: raw.length / size }, (_, i) => (x: number, y: number) => {
    const at = i * size + (Math.floor(y * HEIGHT) * WIDTH + Math.floor(x * WIDTH)) * 3
    return [...raw.subarray(at, at + 3)]
  })
}
const RED = [200, 30, 60]
const GREEN = [30, 160, 60]
const isNear = (colour: number[], wanted: readonly number[], by = 10) =>
  colour.every((value, c) => Math.abs(value - wanted[c]!) <= by)

test('a dissolve goes evenly from the one to the other, and the pictures beside it are whole', async () => {
  const edge = { kind: 'dissolve' as const, length: 1 }
  const frames = await framesOf(
    lessonOf(
      [
        { picture: page('red'), length: 2 },
        { picture: page('green'), length: 2 },
      ],
      { edge },
    ),
  )
  expect(frames).toHaveLength(120)
  const red = frames.map((frame) => frame(0.5, 0.5)[0]!)
  for (const frame of frames.slice(0, 45)) expect(isNear(frame(0.5, 0.5), RED)).toBe(true)
  for (const frame of frames.slice(75)) expect(isNear(frame(0.5, 0.5), GREEN)).toBe(true)
  for (let i = 46; i < 75; i++) expect(red[i]!).toBeLessThanOrEqual(red[i - 1]! + 2)
  expect(Math.abs((red[59]! + red[60]!) / 2 - 115)).toBeLessThan(10)
})

test('a push brings the next picture from the right; plain ground comes between; the ends come out of it', async () => {
  const lesson = lessonOf(
    ['red', 'green', 'red'].map((name) => ({ picture: page(name), length: 1.5 })),
    { edge: { kind: 'push', length: 1 }, opening: 0.5, closing: 0.5 },
  )
  lesson.steps[1]!.edge = { kind: 'plain', length: 1 }
  const frames = await framesOf(lesson)
  const middle = frames[45]!
  expect([isNear(middle(0.1, 0.5), RED), isNear(middle(0.9, 0.5), GREEN)]).toEqual([true, true])
  expect(isNear(frames[90]!(0.5, 0.5), [255, 255, 255], 16)).toBe(true)
  expect(isNear(frames[0]!(0.5, 0.5), [255, 255, 255], 30)).toBe(true)
  expect(isNear(frames.at(-1)!(0.5, 0.5), [255, 255, 255], 30)).toBe(true)
})

test('words come gently, stand, and are in the look of the lesson; what covers is there at once', async () => {
  const words = { ...layer('title'), text: 'Tides' } as Layer
  const cover = layer('cover', { area: { x: 0, y: 0, width: 0.2, height: 0.2 } })
  const look = { ...emptyLesson('x').look, ground: '#0a1e3c', ink: '#ffffff' }
  const frames = await framesOf(lessonOf([{ picture: page('red'), length: 2, layers: [words, cover] }], { look }))
  const ground = [10, 30, 60]
  expect(isNear(frames[0]!(0.1, 0.1), ground)).toBe(true)
  expect(isNear(frames[0]!(0.5, 0.5), RED, 30)).toBe(true)
  const box = (frame: (typeof frames)[number]) => [0.42, 0.46, 0.5, 0.54, 0.58].map((x) => frame(x, 0.5)[0]!)
  // White letters on the look's ground; neither has the picture's red.
  expect(
    box(frames[30]!).every((red, i) => red < 40 || frames[30]!([0.42, 0.46, 0.5, 0.54, 0.58][i]!, 0.5)[2]! > 80),
  ).toBe(true)
  expect(Math.max(...box(frames[30]!))).toBeGreaterThan(100)
  expect(isNear(frames[30]!(0.05, 0.9), RED)).toBe(true)
})

test('a closer look fills the frame with its area, and words stay where they are', async () => {
  const near = layer('closer', { area: { x: 0.75, y: 0.25, width: 0.25, height: 0.25 } })
  const frames = await framesOf(lessonOf([{ picture: page('half'), length: 3, layers: [near] }]))
  const dark = (frame: (typeof frames)[number], x: number) => frame(x, 0.5)[0]! < 128
  expect([dark(frames[0]!, 0.25), dark(frames[0]!, 0.75)]).toEqual([true, false])
  expect([dark(frames[60]!, 0.02), dark(frames[60]!, 0.98)]).toEqual([false, false])
  // The border moves out to the left, frame by frame, never back.
  const border = frames
    .slice(0, 24)
    .map((frame) => Array.from({ length: WIDTH }, (_, i) => dark(frame, i / WIDTH)).filter(Boolean).length)
  expect(border).toEqual([...border].sort((a, b) => b - a))
})

test('a cover follows a recording', async () => {
  const cover = {
    ...layer('cover'),
    way: 'solid',
    area: { x: 0, y: 0, width: 0.2, height: 0.2 },
    moves: [
      { at: 0, x: 0, y: 0 },
      { at: 2, x: 0.8, y: 0 },
    ],
  } as Layer
  const picture: Picture = { ...newRecording(media.film!, 3), to: 3 }
  const frames = await framesOf(lessonOf([{ picture, length: 3, layers: [cover] }]))
  const covered = (frame: (typeof frames)[number], x: number) => isNear(frame(x, 0.1), [255, 255, 255])
  expect([covered(frames[0]!, 0.1), covered(frames[0]!, 0.9)]).toEqual([true, false])
  expect([covered(frames[30]!, 0.5), covered(frames[30]!, 0.1)]).toEqual([true, false])
  expect([covered(frames[75]!, 0.9), covered(frames[75]!, 0.5)]).toEqual([true, false])
  expect(isNear(frames[30]!(0.5, 0.8), [30, 60, 200], 12)).toBe(true)
})

test('what lies under blocks can not be got back from the file: nowhere is more left of it than a mean', async () => {
  const area = { x: 0.3, y: 0.4, width: 0.4, height: 0.2 }
  const secret = (word: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="1920" height="1080"><rect width="1920" height="1080" fill="#fff"/><text x="960" y="580" font-size="150" text-anchor="middle">${word}</text></svg>`
  await sharp(Buffer.from(secret('pin 4711')))
    .png()
    .toFile(join(folder, 'secret.png'))
  media.secret = (await importMedia(store, join(folder, 'secret.png'), 'secret.png')).hash
  const cover = { ...layer('cover', { area }), way: 'blocks' } as Layer
  const steps = [
    { picture: page('red'), length: 1 },
    { picture: page('secret'), length: 2, layers: [cover] },
  ]
  const lesson = lessonOf(steps, { edge: { kind: 'dissolve', length: 0.5 } })
  const out = join(folder, 'covered.mp4')
  await renderVideo(lesson, store, await soundsOf(lesson, store), openAssets(folderObjects(join(folder, 'coded'))), out)
  const [left, top, right, bottom] = pixelsOf(area, { width: 1920, height: 1080 })
  const [width, height] = [right - left, bottom - top]
  const crop = `format=gray,crop=${width}:${height}:${left}:${top}`
  const raw = await runProgram('ffmpeg', ['-v', 'error', '-i', out, '-vf', crop, '-f', 'rawvideo', 'pipe:1'], {
    limit: 120,
    memory: 4e9,
  })
  // In every frame, also while the picture before fades into it: inside a block all pixels are alike.
  const size = blockSize(width, height)
  let most = 0
  for (let frame = 0; frame < 90; frame++)
    for (let y = 0; y + size <= height; y += size)
      for (let x = 0; x + size <= width; x += size) {
        const block = Array.from({ length: (size - 8) ** 2 }, (_, i) => {
          const [row, column] = [y + 4 + Math.floor(i / (size - 8)), x + 4 + (i % (size - 8))]
          return raw[(frame * height + row) * width + column]!
        })
        most = Math.max(most, block.reduce((a, b) => Math.max(a, b)) - block.reduce((a, b) => Math.min(a, b)))
      }
  expect(most).toBeLessThanOrEqual(6)
})

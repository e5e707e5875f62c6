import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { writeWav } from '@/core/formats/wav'
import type { Lesson, Picture } from '@/core/lesson/document'
import { emptyLesson, newRecording, newStep, newStill } from '@/core/lesson/newParts'
import { tones } from '@/core/testing/signals'
import { importMedia } from '../import/import'
import { soundsOf } from '../lessonMedia'
import { runProgram } from '../process'
import { openStore, type MediaStore } from '../store/store'
import { renderSound } from '../delivery/renderSound'
import { renderVideo } from './render'
import { folderObjects } from '../store/folderObjects'
import { openAssets } from '../store/assets'

/** Finished videos, looked at frame by frame: the right colour at the right frame, and nothing else. */

let folder: string
let store: MediaStore
let red: string
let green: string
let film: { hash: string; length: number }
const colours = { red: [176, 32, 79], green: [61, 109, 77], blue: [40, 60, 150] } as const

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-render-'))
  store = openStore(folderObjects(join(folder, 'media')))
  red = await still('red')
  green = await still('green')
  // A second of white, then a second of black.
  const file = join(folder, 'film.mp4')
  await runProgram(
    'ffmpeg',
    [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'color=white:size=320x180:rate=30:duration=1',
      '-f',
      'lavfi',
      '-i',
      'color=black:size=320x180:rate=30:duration=1',
      '-lavfi',
      '[0][1]concat',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      file,
    ],
    { limit: 60 },
  )
  const media = await importMedia(store, file, 'film.mp4')
  film = { hash: media.hash, length: media.length! }
})
afterAll(() => rm(folder, { recursive: true, force: true }))

async function still(name: keyof typeof colours): Promise<string> {
  const [r, g, b] = colours[name]
  const file = join(folder, `${name}.png`)
  await sharp({ create: { width: 1920, height: 1080, channels: 3, background: { r, g, b } } })
    .png()
    .toFile(file)
  return (await importMedia(store, file, `${name}.png`)).hash
}

const lessonOf = (...steps: [Picture, number][]): Lesson => ({
  ...emptyLesson('Test'),
  steps: steps.map(([picture, length], i) => ({
    ...newStep(`s${i}`, '', picture),
    length: { kind: 'fixed' as const, length },
  })),
})
const page = (media: string): Picture => newStill(media, 1)

async function render(lesson: Lesson): Promise<string> {
  const out = join(folder, `${Math.random()}.mp4`)
  await renderVideo(lesson, store, await soundsOf(lesson, store), openAssets(folderObjects(join(folder, 'coded'))), out)
  return out
}

/** Mean colour of every frame. */
async function frames(file: string): Promise<number[][]> {
  const raw = await runProgram(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      file,
      '-vf',
      'scale=in_color_matrix=bt709:in_range=tv,format=gbrp,scale=1:1:flags=area,format=rgb24',
      '-f',
      'rawvideo',
      'pipe:1',
    ],
    { limit: 120 },
  )
  return Array.from({ length: raw.length / 3 }, (_, i) => [...raw.subarray(3 * i, 3 * i + 3)])
}
const isNear = (frame: number[], colour: readonly number[]) =>
  frame.every((value, c) => Math.abs(value - colour[c]!) <= 8)

/** The first frame that is rather this colour than another one. */
function firstOf(shown: readonly number[][], name: keyof typeof colours): number {
  const names = Object.keys(colours) as (keyof typeof colours)[]
  const off = (frame: number[], one: keyof typeof colours) =>
    frame.reduce((sum, value, c) => sum + Math.abs(value - colours[one][c]!), 0)
  return shown.findIndex((frame) => names.sort((a, b) => off(frame, a) - off(frame, b))[0] === name)
}

test('every picture stays exactly its frames, also longer than between two key pictures', async () => {
  const shown = await frames(await render(lessonOf([page(red), 5.5], [page(green), 1], [page(red), 0.5])))
  expect(shown).toHaveLength(210)
  shown.forEach((frame, i) => expect(isNear(frame, i >= 165 && i < 195 ? colours.green : colours.red)).toBe(true))
})

test('a recording whose pictures come irregularly shows at each moment what was on the screen then', async () => {
  // Three pictures of three seconds each, and nothing in between, as recorders of screens write them.
  const list = (['red', 'green', 'blue'] as const).map((name) => `file '${join(folder, `${name}.png`)}'\nduration 3`)
  await still('blue')
  await writeFile(join(folder, 'list.txt'), `${list.join('\n')}\nfile '${join(folder, 'blue.png')}'`)
  const file = join(folder, 'screen.mp4')
  const input = ['-f', 'concat', '-safe', '0', '-i', join(folder, 'list.txt'), '-vf', 'scale=640:360,format=yuv420p']
  await runProgram('ffmpeg', ['-v', 'error', ...input, '-fps_mode', 'vfr', '-g', '60', file], { limit: 60 })
  const screen = await importMedia(store, file, 'screen.mp4')
  const picture: Picture = { ...newRecording(screen.hash, 9), from: 1.5 }
  const shown = await frames(await render(lessonOf([picture, 6])))
  expect([firstOf(shown, 'green'), firstOf(shown, 'blue')]).toEqual([45, 135])
  // Twice as fast, the changes come twice as soon.
  const quick = await frames(await render(lessonOf([{ ...picture, speed: 2 }, 4])))
  expect(firstOf(quick, 'green')).toBe(23)
})

test('a recording moves, and its last picture is held', async () => {
  const picture: Picture = { ...newRecording(film.hash, 1.5), from: 0.5 }
  const shown = await frames(await render(lessonOf([page(red), 1], [picture, 2], [page(green), 1])))
  expect(shown).toHaveLength(120)
  const kind = (frame: number[]) =>
    frame.every((v) => v > 240)
      ? 'white'
      : frame.every((v) => v < 15)
        ? 'black'
        : isNear(frame, colours.red)
          ? 'red'
          : isNear(frame, colours.green)
            ? 'green'
            : 'other'
  const kinds = shown.map(kind)
  const runs = kinds
    .filter((one, i) => one !== kinds[i - 1])
    .map((one) => [one, kinds.filter((other) => other === one).length])
  expect(runs).toEqual([
    ['red', 30],
    ['white', 15],
    ['black', 45],
    ['green', 30],
  ])
})

test('after a jump to any place the right picture is there', async () => {
  const file = await render(lessonOf([page(red), 4.2], [page(green), 4.2], [page(red), 4.2]))
  for (const time of [0.1, 4.1, 4.3, 8.3, 8.5, 12.4]) {
    const [frame] = await framesAt(file, time)
    expect(isNear(frame!, Math.floor(time / 4.2) === 1 ? colours.green : colours.red)).toBe(true)
  }
})

async function framesAt(file: string, time: number): Promise<number[][]> {
  const raw = await runProgram(
    'ffmpeg',
    [
      '-v',
      'error',
      '-ss',
      String(time),
      '-i',
      file,
      '-frames:v',
      '1',
      '-vf',
      'scale=in_color_matrix=bt709:in_range=tv,format=gbrp,scale=1:1:flags=area,format=rgb24',
      '-f',
      'rawvideo',
      'pipe:1',
    ],
    { limit: 60 },
  )
  return [[...raw.subarray(0, 3)]]
}

test('picture and sound are equally long, and a tone begins with its step', async () => {
  await writeFile(join(folder, 'tone.wav'), writeWav([tones([[-20, 2]])], 48000))
  const tone = await importMedia(store, join(folder, 'tone.wav'), 'tone.wav')
  const lesson = lessonOf([page(red), 1.5], [page(green), 3])
  lesson.steps[1]!.passages = [{ id: 'p', media: tone.hash, from: 0, to: 2, pause: 0 }]
  const file = await render(lesson)
  const raw = await runProgram(
    'ffmpeg',
    ['-v', 'error', '-i', file, '-ac', '1', '-ar', '48000', '-f', 'f32le', 'pipe:1'],
    { limit: 60 },
  )
  const sound = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length))
  expect(Math.abs(sound.length / 48000 - 4.5)).toBeLessThan(0.03)
  const start = sound.findIndex((value) => Math.abs(value) > 0.05) / 48000
  expect(Math.abs(start - 1.5)).toBeLessThan(0.015)
  // A tone of 1 kHz over the whole lesson time of its step, at the lesson's loudness.
  const out = join(folder, 'sound.wav')
  const { balance } = await renderSound(lesson, store, await soundsOf(lesson, store), out)
  expect(balance.loudness!).toBeCloseTo(-16, 0)
  expect(balance.pictureLength).toBeNull()
  expect(balance.soundLength).toBeCloseTo(4.5, 6)
})

test('a lesson without steps says what to do', async () => {
  await expect(render(emptyLesson('x'))).rejects.toThrow('Add a picture first')
})

test('what is cancelled leaves no file', async () => {
  const lesson = lessonOf([page(red), 60])
  const cancel = new AbortController()
  const out = join(folder, 'cancelled.mp4')
  const work = renderVideo(
    lesson,
    store,
    await soundsOf(lesson, store),
    openAssets(folderObjects(join(folder, 'coded'))),
    out,
    {
      signal: cancel.signal,
      onProgress: () => cancel.abort(),
    },
  )
  await expect(work).rejects.toThrow()
  const { exists } = await import('../store/store')
  expect(await exists(out)).toBe(false)
})

import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { writeWav } from '@/core/formats/wav'
import { emptyLesson, newStep } from '@/core/lesson/document'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { importMedia } from '@/media/import/import'
import { soundsOf } from '@/media/lessonMedia'
import { openStore } from '@/media/store/store'
import { renderVideo } from '@/media/video/render'
import { cpuTime } from './cpuTime'
import { folderObjects } from '@/media/store/folderObjects'
import { openAssets } from '@/media/store/assets'

const SLIDES = 20
const STAY = 15 // s

/** Five minutes of 20 slides: our render against coding every frame with libx264 veryfast, and a re-export. */
export async function measureRenderAgainstNaive(work: string): Promise<void> {
  const store = openStore(folderObjects(join(work, 'media')))
  const [slides, list] = await makeSlides(work)
  const reading = join(work, 'reading.wav')
  writeFileSync(
    reading,
    writeWav(
      [noise(SLIDES * STAY * HOUSE_RATE, 8).map((value, i) => value * 0.1 * Math.abs(Math.sin(i / 20_000)))],
      HOUSE_RATE,
    ),
  )
  const voice = await importMedia(store, reading, 'reading.wav')
  const pages = await Promise.all(slides.map((file) => importMedia(store, file, 'slide.png')))
  const lesson = emptyLesson('Bench')
  lesson.steps = pages.map(({ hash }, i) => ({
    ...newStep(`s${i}`, '', { kind: 'still', media: hash, page: 1 }),
    length: { kind: 'fixed' as const, length: STAY },
    passages: [{ id: `p${i}`, media: voice.hash, from: i * STAY, to: (i + 1) * STAY, pause: 0 }],
  }))
  const sounds = await soundsOf(lesson, store)
  const out = join(work, 'ours.mp4')
  const timed = async () => {
    const start = performance.now()
    await renderVideo(lesson, store, sounds, openAssets(folderObjects(join(work, 'coded'))), out)
    return (performance.now() - start) / 1000
  }
  const full = await timed()
  const naive = cpuTime('ffmpeg', [
    '-y',
    '-f',
    'concat',
    '-safe',
    '0',
    '-i',
    list,
    '-i',
    reading,
    '-vf',
    'scale=1920:1080,fps=30,format=yuv420p',
    '-c:v',
    'libx264',
    '-preset',
    'veryfast',
    '-c:a',
    'aac',
    '-t',
    String(SLIDES * STAY),
    join(work, 'naive.mp4'),
  ]).wall
  lesson.steps[7]!.picture = { kind: 'card', lines: ['Changed'] }
  const again = await timed()
  const length = SLIDES * STAY
  console.log(
    `render of ${length / 60} minutes, ${SLIDES} slides: ${(length / full).toFixed(1)}x realtime, ${(naive / full).toFixed(1)} times as fast as libx264 veryfast in wall time`,
  )
  console.log(`after one slide has changed: ${(again / full).toFixed(2)} of the full render`)
}

async function makeSlides(work: string): Promise<[files: string[], list: string]> {
  const folder = join(work, 'slides')
  mkdirSync(folder)
  const files: string[] = []
  for (let i = 0; i < SLIDES; i++) {
    const file = join(folder, `${i}.png`)
    const text = Array.from(
      { length: 9 },
      (_, line) =>
        `<text x="120" y="${330 + line * 80}" font-size="44">Line ${line} of slide ${i}: what is said here, in some words</text>`,
    )
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1920" height="1080"><rect width="1920" height="1080" fill="#f7f4e9"/><rect width="1920" height="170" fill="hsl(${i * 9} 50% 30%)"/>${text.join('')}</svg>`
    await sharp(Buffer.from(svg)).png().toFile(file)
    files.push(file)
  }
  const list = join(folder, 'list.txt')
  writeFileSync(list, files.map((file) => `file '${file}'\nduration ${STAY}\n`).join(''))
  return [files, list]
}

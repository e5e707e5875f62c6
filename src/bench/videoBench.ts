import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { writeWav } from '@/core/formats/wav'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newStep, newStill } from '@/core/lesson/newParts'
import { newLayer, type Layer } from '@/core/lesson/layers'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { importMedia } from '@/media/import/import'
import { soundsOf } from '@/media/lessonMedia'
import { openStore, type MediaStore } from '@/media/store/store'
import { renderVideo } from '@/media/video/render'
import { cpuTime } from './cpuTime'
import { folderObjects } from '@/media/store/folderObjects'
import { openAssets } from '@/media/store/assets'

const SLIDES = 40
const STAY = 15 // s

/**
 * Ten minutes of 40 slides, plain, and with eight dissolves, ten labels and four closer looks: our render, of which every
 * frame is there, against coding all frames of the same pictures with libx264 veryfast; and what one changed slide costs.
 */
export async function measureRenderAgainstNaive(work: string): Promise<void> {
  const store = openStore(folderObjects(join(work, 'media')))
  const [slides, list] = await makeSlides(work)
  const reading = join(work, 'reading.wav')
  const voice = noise(SLIDES * STAY * HOUSE_RATE, 8).map((value, i) => value * 0.1 * Math.abs(Math.sin(i / 20_000)))
  writeFileSync(reading, writeWav([voice], HOUSE_RATE))
  const plain = await lessonOf(store, reading, slides)
  const render = async (lesson: Lesson, kept: string) => {
    const sounds = await soundsOf(lesson, store)
    const start = performance.now()
    await renderVideo(lesson, store, sounds, openAssets(folderObjects(join(work, kept))), join(work, 'ours.mp4'))
    return (performance.now() - start) / 1000
  }
  const full = await render(plain, 'plain')
  const over = await render(withMuchOver(plain), 'over')
  const naive = cpuTime('ffmpeg', [
    ...['-y', '-f', 'concat', '-safe', '0', '-i', list, '-i', reading, '-vf', 'scale=1920:1080,fps=30,format=yuv420p'],
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-c:a', 'aac', '-t', String(SLIDES * STAY), join(work, 'naive.mp4')],
  ]).wall
  const changed = structuredClone(plain)
  changed.steps[7]!.picture = { kind: 'card', lines: ['Changed'] }
  const again = await render(changed, 'plain')
  const length = SLIDES * STAY
  const speeds = (time: number) =>
    `${(length / time).toFixed(1)}x realtime, ${(naive / time).toFixed(1)} times as fast as libx264 veryfast in wall time`
  console.log(`render of ${length / 60} minutes, ${SLIDES} slides: ${speeds(full)}`)
  console.log(`with 8 dissolves, 10 labels and 4 closer looks: ${speeds(over)}`)
  console.log(`after one slide has changed: ${(again / full).toFixed(2)} of the full render`)
}

async function lessonOf(store: MediaStore, reading: string, slides: readonly string[]): Promise<Lesson> {
  const voice = await importMedia(store, reading, 'reading.wav')
  const pages = await Promise.all(slides.map((file) => importMedia(store, file, 'slide.png')))
  const steps = pages.map(({ hash }, i) => ({
    ...newStep(`s${i}`, '', newStill(hash, 1)),
    length: { kind: 'fixed' as const, length: STAY },
    passages: [{ id: `p${i}`, media: voice.hash, from: i * STAY, to: (i + 1) * STAY, pause: 0 }],
  }))
  return { ...emptyLesson('Bench'), steps }
}

function withMuchOver(plain: Lesson): Lesson {
  const lesson = structuredClone(plain)
  const steps = (every: number, count: number) => lesson.steps.filter((_, i) => i % every === 1).slice(0, count)
  for (const step of steps(5, 8)) step.edge = { kind: 'dissolve', length: 0.5 }
  for (const step of steps(4, 10))
    step.layers.push({ ...newLayer(`label ${step.id}`, 'label'), text: 'Slack water' } as Layer)
  for (const step of steps(9, 4)) step.layers.push(newLayer(`closer ${step.id}`, 'closer'))
  return lesson
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

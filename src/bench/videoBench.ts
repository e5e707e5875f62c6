import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { writeWav } from '@/core/formats/wav'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newBed, newStep, newStill } from '@/core/lesson/newParts'
import { newLayer, type Layer } from '@/core/lesson/layers'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { writeArchive } from '@/media/archive'
import { importMedia } from '@/media/import/import'
import { openStore, type MediaStore } from '@/media/store/store'
import { cpuTime } from './cpuTime'
import { pieces } from './rideMaterial'
import { folderObjects } from '@/media/store/folderObjects'

const SLIDES = 40
const STAY = 15 // s

/**
 * Ten minutes of 40 slides over a voice and music, plain, and with eight dissolves, ten labels and four closer looks: the
 * whole command, of which every frame is there, against coding all frames of the same pictures with libx264 veryfast; and
 * what one changed slide costs. By the CPU time of whole processes, files being imported already.
 */
export async function measureRenderAgainstNaive(work: string): Promise<void> {
  process.env.YARN_STEP_COMMAND_CACHE = join(work, 'commands')
  const store = openStore(folderObjects(join(work, 'media')))
  const [slides, list] = await makeSlides(work)
  const reading = join(work, 'reading.wav')
  const voice = noise(SLIDES * STAY * HOUSE_RATE, 8).map((value, i) => value * 0.1 * Math.abs(Math.sin(i / 20_000)))
  writeFileSync(reading, writeWav([voice], HOUSE_RATE))
  const plain = await lessonOf(store, work, reading, slides)
  const changed = structuredClone(plain)
  changed.steps[7]!.picture = { kind: 'card', lines: ['Changed'] }
  const archives = { plain, over: withMuchOver(plain), changed }
  for (const [name, lesson] of Object.entries(archives)) await writeArchive(lesson, store, join(work, `${name}.zip`))
  const command = (...args: string[]) => cpuTime(join(process.env.YARN_STEP_HOME!, 'bin', 'yarn-step'), args)
  command('check', join(work, 'plain.zip'))
  const render = (name: keyof typeof archives, kept: string) =>
    command('render', join(work, `${name}.zip`), '--out', join(work, 'ours.mp4'), '--cache', join(work, kept))
  const full = render('plain', 'plain')
  const over = render('over', 'over')
  const again = render('changed', 'plain')
  const naive = cpuTime('ffmpeg', [
    ...['-y', '-f', 'concat', '-safe', '0', '-i', list, '-i', reading, '-vf', 'scale=1920:1080,fps=30,format=yuv420p'],
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-c:a', 'aac', '-t', String(SLIDES * STAY), join(work, 'naive.mp4')],
  ])
  const length = SLIDES * STAY
  const told = ({ cpu, wall }: ReturnType<typeof cpuTime>) =>
    `CPU ${cpu.toFixed(1)} s, 1/${(naive.cpu / cpu).toFixed(1)} of libx264 veryfast; ${(length / wall).toFixed(0)}x realtime`
  console.log(`libx264 veryfast of the same pictures: CPU ${naive.cpu.toFixed(1)} s`)
  console.log(`render of ${length / 60} minutes, ${SLIDES} slides: ${told(full)}`)
  console.log(`with 8 dissolves, 10 labels and 4 closer looks: ${told(over)}`)
  console.log(
    `after one slide has changed: CPU ${again.cpu.toFixed(1)} s, ${(again.cpu / full.cpu).toFixed(3)} of the full render`,
  )
}

async function lessonOf(store: MediaStore, work: string, reading: string, slides: readonly string[]): Promise<Lesson> {
  const voice = await importMedia(store, reading, 'reading.wav')
  const piece = join(work, 'piece.wav')
  const { sound } = pieces()[0]!
  writeFileSync(piece, writeWav([sound, sound], HOUSE_RATE))
  const bed = await importMedia(store, piece, 'piece.wav')
  const pages = await Promise.all(slides.map((file) => importMedia(store, file, 'slide.png')))
  const steps = pages.map(({ hash }, i) => ({
    ...newStep(`s${i}`, '', newStill(hash, 1)),
    length: { kind: 'fixed' as const, length: STAY },
    passages: [{ id: `p${i}`, media: voice.hash, from: i * STAY, to: (i + 1) * STAY, pause: 0 }],
  }))
  return { ...emptyLesson('Bench'), steps, bedCues: [newBed('bed', bed.hash, 's0')] }
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

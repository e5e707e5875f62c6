import { spokenLoudness } from '@/core/measure/takeVoice'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'esbuild'
import { writeWav } from '@/core/formats/wav'
import { createEnergyMeter } from '@/core/measure/energyMeter'
import { stretchLoudness } from '@/core/measure/loudness'
import { intelligibility, STOI_RATE } from '@/core/measure/stoi'
import { NO_CLEAN_UP, type CleanUp } from '@/core/narration/cleanUp/settings'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE, toFactor, type Decibels } from '@/core/units'
import { launchBrowser } from '@/demo/browser'
import { cleanMedia } from '@/media/cleaning'
import { bytesOf } from '@/media/ffmpeg'
import { importMedia } from '@/media/import/import'
import { runProgram, writeTo } from '@/media/process'
import { projectFolder } from '@/media/settings'
import { openStore, storeSource } from '@/media/store/store'
import { readingOf, sentencesOf, type TimedReading } from './alignMaterial'
import { cpuTime } from './cpuTime'
import { folderObjects } from '@/media/store/folderObjects'

const CLEAN_UP: CleanUp = {
  ...NO_CLEAN_UP,
  noise: { on: true, amount: 0.95 },
  hiss: { on: true, amount: 12 },
  rumble: { on: true, below: 80 },
}

/** What clean-up does to a voice recorded from people's speech in a made room, and how fast it is. */
export async function measureCleanUp(work: string): Promise<void> {
  const script = sentencesOf(14, 3)
  const reading = await readingOf(
    script,
    script.map((_, sentence) => ({ sentence })),
    'slt',
    4,
  )
  for (const ratio of [20, 10]) await measureAt(work, reading, ratio)
  await measureInBrowser(reading.samples)
}

async function measureAt(work: string, { samples, said }: TimedReading, ratio: Decibels): Promise<void> {
  const room = roomNoise(samples.length)
  const factor = toFactor(rms(samples) - rms(room) - ratio)
  const noisy = samples.map((value, i) => value + factor * room[i]!)
  const path = join(work, `noisy-${ratio}.wav`)
  writeFileSync(path, writeWav([noisy], HOUSE_RATE))
  const store = openStore(folderObjects(mkdtempSync(join(work, 'store-'))))
  const { hash } = await importMedia(store, path, 'Noisy.wav')
  const start = performance.now()
  const key = await cleanMedia(store, hash, CLEAN_UP, null)
  const wall = (performance.now() - start) / 1000
  const sounds = storeSource(store)
  const cleaned = (await sounds.source(key, 0, samples.length))[0]!
  await sounds.close()

  const speech = said.map(({ start: from, end: to }) => ({ start: from, end: to }))
  const pauses = speech.slice(1).map(({ start: to }, i) => ({ start: speech[i]!.end + 0.05, end: to - 0.05 }))
  const [before, after] = [noisy, cleaned].map((sound) => {
    const meter = createEnergyMeter(HOUSE_RATE, 1)
    meter.push([sound])
    return meter.track()
  })
  const quiet = pauses.filter(({ start: from, end: to }) => to - from > 0.3)
  const drop = quiet.map(
    ({ start: from, end: to }) => stretchLoudness(before!, from, to) - stretchLoudness(after!, from, to),
  )
  const level = spokenLoudness(after!, speech)! - spokenLoudness(before!, speech)!
  const [clean, raw, made] = await Promise.all([samples, noisy, cleaned].map(atStoiRate))
  const reference = cpuTime('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-i',
    path,
    '-af',
    'afftdn=nr=20',
    join(work, 'afftdn.wav'),
  ])
  console.log(
    `${ratio} dB: noise in pauses ${(-Math.min(...drop)).toFixed(1)} dB at least, speech ${level.toFixed(2)} LU, ` +
      `STOI ${intelligibility(clean!, raw!)!.toFixed(3)} before, ${intelligibility(clean!, made!)!.toFixed(3)} after; ` +
      `${(samples.length / HOUSE_RATE / wall).toFixed(1)}x realtime on the server ` +
      `(ffmpeg afftdn ${(samples.length / HOUSE_RATE / reference.wall).toFixed(1)}x)`,
  )
}

/** Brown noise and mains hum with two overtones: an office with its ventilation on. */
function roomNoise(samples: number): Float32Array {
  const white = noise(samples, 11)
  let brown = 0
  return white.map((value, i) => {
    brown = 0.98 * brown + 0.2 * value
    const hum = [50, 100, 150].reduce((sum, hertz) => sum + Math.sin((2 * Math.PI * hertz * i) / HOUSE_RATE), 0)
    return brown + 0.3 * value + 0.08 * hum
  })
}

const rms = (samples: Float32Array): Decibels =>
  10 * Math.log10(samples.reduce((sum, value) => sum + value * value, 0) / samples.length)

async function atStoiRate(samples: Float32Array): Promise<Float32Array> {
  const raw = (rate: number) => ['-f', 'f32le', '-ar', String(rate), '-ac', '1']
  const args = ['-v', 'error', ...raw(HOUSE_RATE), '-i', 'pipe:0', ...raw(STOI_RATE), 'pipe:1']
  const out = await runProgram('ffmpeg', args, { limit: 100, feed: (input) => writeTo(input, bytesOf(samples)) })
  return new Float32Array(out.buffer.slice(out.byteOffset, out.byteOffset + out.byteLength))
}

/** The same chain, bundled for a page of Chromium. */
async function measureInBrowser(samples: Float32Array): Promise<void> {
  const root = projectFolder()
  const { outputFiles } = await build({
    stdin: {
      contents: `
        export { cleanVoice } from '@/core/narration/cleanUp/chain'
        export { createSuppressor } from '@/core/narration/cleanUp/suppressor'
        export { noiseSpectrum } from '@/core/narration/cleanUp/spectral'`,
      resolveDir: root,
    },
    alias: { '@': join(root, 'src') },
    bundle: true,
    format: 'iife',
    globalName: 'yarn',
    write: false,
  })
  const wasm = readFileSync(join(root, 'node_modules/@shiguredo/rnnoise-wasm/dist/rnnoise_simd.wasm'))
  const browser = await launchBrowser(mkdtempSync('/tmp/yarn-step-bench-browser-'))
  try {
    const page = await browser.newPage()
    await page.addScriptTag({ content: outputFiles[0]!.text })
    const seconds = 30
    const take = Buffer.from(bytesOf(samples.slice(0, seconds * HOUSE_RATE))).toString('base64')
    const wall = await page.evaluate(
      async (sound, module, settings) => {
        const bytes = (text: string) => Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0))
        const yarn = (window as unknown as Record<string, Record<string, (...args: unknown[]) => unknown>>).yarn!
        const input = new Float32Array(bytes(sound).buffer)
        const suppress = yarn.createSuppressor!(await WebAssembly.compile(bytes(module)))
        const room = yarn.noiseSpectrum!([input.slice(0, 12000)])
        const start = performance.now()
        yarn.cleanVoice!(input, settings, { level: -20, room }, suppress)
        return (performance.now() - start) / 1000
      },
      take,
      wasm.toString('base64'),
      CLEAN_UP,
    )
    console.log(`in Chromium, one thread: ${(seconds / wall).toFixed(1)}x realtime`)
  } finally {
    await browser.close()
  }
}

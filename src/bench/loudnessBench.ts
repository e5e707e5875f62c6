import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { writeWavHeader, encodeSamples } from '@/core/formats/wav'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { cpuTime } from './cpuTime'
import { median } from './statistics'

const MINUTES = 60
const ROUNDS = 3

/** All five values of a 60-minute stereo WAV against ffmpeg's `ebur128=peak=true`; of an MP3 against its decode alone. */
export async function measureLoudnessAgainstFfmpeg(work: string): Promise<void> {
  const wav = join(work, 'hour.wav')
  writeHour(wav)
  const ours = (file: string) => cpuTime('bin/yarn-step', ['loudness', file, '--json'])
  const theirs = (file: string) =>
    cpuTime('ffmpeg', ['-nostats', '-i', file, '-af', 'ebur128=peak=true', '-f', 'null', '-'])
  compare(
    `loudness of ${MINUTES} minutes of WAV / ffmpeg ebur128=peak=true`,
    () => ours(wav),
    () => theirs(wav),
  )
  const mp3 = join(work, 'hour.mp3')
  cpuTime('ffmpeg', ['-i', wav, '-b:a', '128k', mp3])
  compare(
    'loudness of the same as MP3 / ffmpeg decode alone',
    () => ours(mp3),
    () => cpuTime('ffmpeg', ['-nostats', '-i', mp3, '-f', 'null', '-']),
  )
}

function compare(name: string, ours: () => { cpu: number }, theirs: () => { cpu: number }): void {
  const ratios = Array.from({ length: ROUNDS }, () => ours().cpu / theirs().cpu)
  console.log(
    `${name}: CPU ratio median ${median(ratios).toFixed(2)} (${ratios.map((ratio) => ratio.toFixed(2)).join(', ')})`,
  )
}

/** Noise that rises and falls, so that gates and peaks have something to do. */
function writeHour(file: string): void {
  const minute = noise(60 * HOUSE_RATE, 5)
  for (let i = 0; i < minute.length; i++) minute[i]! *= 0.05 + 0.2 * Math.abs(Math.sin(i / 90_000))
  const other = minute.map((_, i) => minute[(i + 4800) % minute.length]!)
  const body = encodeSamples([minute, other])
  writeFileSync(file, writeWavHeader(2, HOUSE_RATE, MINUTES * minute.length))
  for (let m = 0; m < MINUTES; m++) writeFileSync(file, body, { flag: 'a' })
}

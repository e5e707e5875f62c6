import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { layoutLesson } from '@/core/lesson/layout'
import { applyEdit } from '@/core/lesson/edits'
import { writeWav } from '@/core/formats/wav'
import { planMix } from '@/core/mix/plan'
import { renderWhole } from '@/core/mix/renderer'
import { lessonOver, SONG, soundBank, TAKE } from '@/core/testing/lessons'
import { HOUSE_RATE } from '@/core/units'
import { cpuTime } from './cpuTime'
import { pieces, unevenReading } from './rideMaterial'
import { median } from './statistics'

/** The mix of some minutes against an ffmpeg filter graph of the same parts, and an edit of a long lesson. */
export async function measureMix(work: string): Promise<void> {
  const voice = await unevenReading()
  const song = pieces()[0]!.sound
  const bank = soundBank({ [TAKE]: [voice], [SONG]: [song, song] })
  const lesson = lessonOver([0, voice.length / HOUSE_RATE])
  for (const pocket of [false, true]) {
    const one = { ...lesson, pocket: { on: pocket, depth: 6, nearer: 0 } }
    const { plan } = planMix(one, layoutLesson(one), bank.analysisOf)
    const start = performance.now()
    let samples = 0
    for await (const { sum } of renderWhole(plan, bank.source)) samples += sum[0].length
    const wall = (performance.now() - start) / 1000
    const speed = samples / HOUSE_RATE / wall
    console.log(`mix${pocket ? ' with pocket' : ''}: ${speed.toFixed(0)}x realtime, one thread, ${wall.toFixed(2)} s`)
  }
  const [a, b] = [join(work, 'voice.wav'), join(work, 'bed.wav')]
  writeFileSync(a, writeWav([voice], HOUSE_RATE))
  writeFileSync(b, writeWav([song, song], HOUSE_RATE))
  const graph =
    '[0:a]aformat=channel_layouts=stereo,asplit[v][s];[1:a]volume=-20dB[b];[b][s]sidechaincompress=threshold=0.05:ratio=4[d];[v][d]amix=inputs=2:duration=first,alimiter'
  const args = [
    '-v',
    'error',
    '-y',
    '-i',
    a,
    '-stream_loop',
    '-1',
    '-i',
    b,
    '-filter_complex',
    graph,
    '-t',
    '240',
    '-f',
    'null',
    '-',
  ]
  const { cpu, wall } = cpuTime('ffmpeg', args)
  const length = Math.min(240, voice.length / HOUSE_RATE)
  console.log(
    `ffmpeg side-chain graph of the same parts: ${(length / wall).toFixed(0)}x realtime, CPU ${cpu.toFixed(2)} s`,
  )

  const long = lessonOver(Array.from({ length: 201 }, (_, i) => i * 18))
  const times = Array.from({ length: 40 }, (_, i) => {
    const begin = performance.now()
    layoutLesson(applyEdit(long, { name: 'setTail', step: `s${i}`, tail: 0.5 }))
    return performance.now() - begin
  })
  console.log(`edit and layout of a 60-minute lesson of 200 steps: median ${median(times).toFixed(2)} ms`)
}

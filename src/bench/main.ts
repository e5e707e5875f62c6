import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { DEFAULT_TARGETS } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { planMix } from '@/core/mix/plan'
import { lessonOver, SONG, TAKE } from '@/core/testing/lessons'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { measureAlignment } from './alignBench'
import { measureCleanUp } from './cleanUpBench'
import { measureDeck } from './deckBench'
import { measureLoudnessAgainstFfmpeg } from './loudnessBench'
import { measureMix } from './mixBench'
import { measurePage } from './pageBench'
import { measureRenderAgainstNaive } from './videoBench'
import { rideFigures, type RideFigures } from './rideFigures'
import { analyse, pieces, SEEDS, unevenReading } from './rideMaterial'
import { rideStems } from './rideStems'
import { mean, median } from './statistics'

/**
 * Ratios against named references, taken in the same run; `npm run bench -- NAME…` runs only some.
 * Single times are rough on shared machines and are printed for orientation only.
 */

const benches: Record<string, (work: string) => Promise<void>> = {
  loudness: measureLoudnessAgainstFfmpeg,
  video: measureRenderAgainstNaive,
  plan: planning,
  ride: riding,
  align: measureAlignment,
  clean: measureCleanUp,
  mix: measureMix,
  page: measurePage,
  deck: measureDeck,
}

const wanted = process.argv.slice(2)
const work = mkdtempSync(join(tmpdir(), 'yarn-step-bench-'))
process.env.YARN_STEP_HOME ??= resolve('.')
for (const [name, bench] of Object.entries(benches)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue
  console.log(`\n== ${name}`)
  await bench(work)
}
rmSync(work, { recursive: true, force: true })

/** Replanning a 60-minute lesson of 200 steps, and laying out one of 500. */
async function planning(): Promise<void> {
  const voice = noise(60 * 60 * HOUSE_RATE, 3)
  for (let i = 0; i < voice.length; i++) voice[i]! *= (i / HOUSE_RATE) % 5 < 4.3 ? 0.1 : 0.0003
  const analyses = new Map([
    [TAKE, analyse(voice)],
    [SONG, analyse(pieces()[0]!.sound)],
  ])
  const lesson = lessonOver(Array.from({ length: 201 }, (_, i) => i * 18))
  const times = Array.from({ length: 7 }, () => {
    const start = performance.now()
    planMix(lesson, layoutLesson(lesson), (hash) => analyses.get(hash))
    return performance.now() - start
  })
  console.log(
    `replan of 60 minutes, 200 steps: first ${times[0]!.toFixed(0)} ms, then median ${median(times.slice(1)).toFixed(0)} ms`,
  )
  const many = lessonOver(Array.from({ length: 501 }, (_, i) => i * 4))
  const layouts = Array.from({ length: 50 }, () => {
    const start = performance.now()
    layoutLesson(many)
    return performance.now() - start
  })
  console.log(`layout of 500 steps: median ${median(layouts).toFixed(2)} ms`)
}

async function riding(): Promise<void> {
  const readings = await Promise.all(SEEDS.map(unevenReading))
  const asLaid = pieces().map((piece) => ({ ...piece, evenStrokes: false }))
  const even = asLaid.filter(({ name }) => name === 'percussive').map((piece) => ({ ...piece, evenStrokes: true }))
  for (const { name, sound, evenStrokes } of [...asLaid, ...even]) {
    const all: RideFigures[] = []
    for (const voice of readings) all.push(rideFigures(await rideStems(voice, sound, evenStrokes), DEFAULT_TARGETS))
    console.log(
      (evenStrokes ? `${name}, even` : name).padEnd(16),
      (Object.keys(all[0]!) as (keyof RideFigures)[])
        .map((key) => `${key} ${mean(all.map((figures) => figures[key])).toFixed(3)}`)
        .join('  '),
    )
  }
}

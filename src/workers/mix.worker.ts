import { expose } from 'comlink'
import { checkLesson } from '@/core/check/findings'
import { readAnalysis } from '@/core/formats/analysis'
import { emptyLesson, mediaOf, type Lesson } from '@/core/lesson/document'
import { carryOver, layoutLesson, type Timeline } from '@/core/lesson/layout'
import type { MediaInfo } from '@/core/lesson/media'
import type { Analysis } from '@/core/measure/analysis'
import { clearanceReadings, corridorShares, drawnLoudness } from '@/core/mix/balanceSheet'
import { drawBalance } from '@/core/mix/balancePicture'
import { planMix, type PlannedMix } from '@/core/mix/plan'
import { HOUSE_RATE, toSamples } from '@/core/units'
import { chunkSource } from './chunkSource'
import type { Hearing, MixPicture, MixWorkerApi } from './protocol'
import { createStreamer } from './stream'

/** Plans and renders the lesson's mix beside the page. */

const infos = new Map<string, MediaInfo>()
const analyses = new Map<string, Analysis>()
const source = chunkSource((hash) => infos.get(hash))

let timeline: Timeline = layoutLesson(emptyLesson(''))
let planned: PlannedMix = planMix(emptyLesson(''), timeline, () => undefined)
let current: Lesson = emptyLesson('')
let hearing: Hearing = 'all'

const streamer = createStreamer(() => ({ plan: planned.plan, source, hearing }))

const api: MixWorkerApi = {
  connect: (port) => streamer.connect(port),
  async setLesson(lesson, media, way) {
    for (const info of media) infos.set(info.hash, info)
    await loadAnalyses(lesson)
    const before = timeline
    timeline = layoutLesson(lesson)
    planned = planMix(lesson, timeline, (hash) => analyses.get(hash), way)
    current = lesson
    streamer.change((position) => toSamples(carryOver(before, timeline, position / HOUSE_RATE)))
    return draw(lesson)
  },
  balance: () => drawBalance(current, timeline, planned, (hash) => analyses.get(hash)),
  play: (from, until) => streamer.play(toSamples(from), until === null ? null : toSamples(until)),
  stop: () => streamer.stop(),
  listenTo(next) {
    hearing = next
    streamer.change((position) => position)
  },
}

expose(api)

async function loadAnalyses(lesson: Lesson): Promise<void> {
  const missing = [...mediaOf(lesson)].filter((hash) => !analyses.has(hash) && (infos.get(hash)?.channels ?? 0) > 0)
  await Promise.all(
    missing.map(async (hash) => {
      const response = await fetch(`/api/media/${hash}/analysis.bin`)
      if (response.ok) analyses.set(hash, readAnalysis(new Uint8Array(await response.arrayBuffer())))
    }),
  )
}

function draw(lesson: Lesson): MixPicture {
  const { levels, plan } = planned
  const readings = clearanceReadings(levels.voice, levels.bed, levels.speech)
  const inMix = (track: Float32Array) => Float32Array.from(drawnLoudness(track), (value) => value + plan.gain)
  const voice = inMix(levels.voice)
  const clearance = new Float32Array(voice.length).fill(NaN)
  for (const reading of readings) clearance[Math.round(reading.at * 10)] = reading.clearance
  return {
    voice,
    bed: inMix(levels.bed),
    sum: inMix(levels.voice.map((energy, i) => energy + levels.bed[i]!)),
    clearance,
    shares: corridorShares(readings, levels.clearance),
    gain: plan.gain,
    findings: checkLesson(
      lesson,
      timeline,
      planned,
      (hash) => analyses.get(hash),
      (hash) => infos.get(hash),
    ),
    targets: levels.clearance,
  }
}

import { expose, wrap, type Remote } from 'comlink'
import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { checkCaptions } from '@/core/check/captions'
import { checkLesson } from '@/core/check/findings'
import { checkScripts } from '@/core/check/scripts'
import { readAnalysis } from '@/core/formats/analysis'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson } from '@/core/lesson/newParts'
import { mediaOf } from '@/core/lesson/usedMedia'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding } from '@/core/lesson/sounding'
import type { Timeline } from '@/core/lesson/timeline'
import type { MediaInfo } from '@/core/messages/media'
import type { Analysis } from '@/core/measure/analysis'
import { clearanceReadings, corridorShares, drawnLoudness } from '@/core/mix/balanceSheet'
import { drawBalance } from '@/core/mix/balancePicture'
import { createPlanner } from '@/core/mix/plan'
import { strokesWorth } from '@/core/mix/strokesWorth'
import { takeWords } from '@/messages/say'
import { heardWords, type Found } from '@/core/narration/words/alignments'
import type { PlannedMix } from '@/core/mix/mixPlan'
import { LISTENING, type MixPicture, type MixWorkerApi, type PlanWorkerApi } from './protocol'

/** Plans the lesson's mix, measures and checks it: beside the page, and beside the worker whose sound must not wait. */

const infos = new Map<string, MediaInfo>()
const analyses = new Map<string, Analysis>()
const alignments = new Map<string, Found | null>()
const analysisOf = (hash: string) => analyses.get(hash)

let lesson: Lesson = emptyLesson('')
let timeline: Timeline = layoutLesson(lesson)
const plan = createPlanner(analysisOf)
let planned: PlannedMix = plan(lesson, timeline)
let renderer: Remote<MixWorkerApi> | null = null

const api: PlanWorkerApi = {
  connect(port, words) {
    takeWords(words)
    renderer = wrap<MixWorkerApi>(port)
  },
  async setLesson({ lesson: next, media, sounds, way }, serial) {
    for (const info of media) infos.set(info.hash, info)
    const cleaned = new Map(sounds)
    const isWhole = await loadAnalyses([...mediaOf(next), ...cleaned.values()])
    lesson = next
    timeline = sounding(layoutLesson(lesson), (take) => cleaned.get(take) ?? take)
    planned = plan(lesson, timeline, way)
    void renderer?.setMix(lesson, planned.plan, media, serial)
    return { ...draw(), isWhole }
  },
  balance: () => drawBalance(lesson, timeline, planned, analysisOf),
  strokesWorth: () => strokesWorth(lesson, timeline, planned.levels, analysisOf),
  findInWords(found) {
    for (const [key, words] of found) alignments.set(key, words)
    // By takes, not by cleaned sounds: words are found in takes.
    const heard = heardWords(lesson, alignments, analyses)
    const said = layoutLesson(lesson)
    return [...checkScripts(lesson, said, heard), ...checkCaptions(lesson, said, lessonCaptions(lesson, said, heard))]
  },
}

expose(api)
postMessage(LISTENING)

/** False where one could not be had: it is asked for again with the next plan. */
async function loadAnalyses(of: readonly string[]): Promise<boolean> {
  const missing = of.filter((hash) => !analyses.has(hash) && (infos.get(hash)?.channels ?? 0) > 0)
  const found = await Promise.all(
    missing.map(async (hash) => {
      const response = await fetch(`/api/media/${hash}/analysis.bin`).catch(() => null)
      if (response?.ok) analyses.set(hash, readAnalysis(new Uint8Array(await response.arrayBuffer())))
      // What is not there (404) will not come by asking.
      return response !== null && (response.ok || response.status === 404)
    }),
  )
  return found.every(Boolean)
}

function draw(): Omit<MixPicture, 'isWhole'> {
  const { levels, plan } = planned
  const readings = clearanceReadings(levels.voice, levels.bed, levels.speech, levels.music)
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
    findings: checkLesson(lesson, timeline, planned, analysisOf, (hash) => infos.get(hash)),
    targets: levels.clearance,
  }
}

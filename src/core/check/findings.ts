import { takeSpeech } from '@/core/measure/takeVoice'
import { isOutdated, isStandIn } from '@/core/lesson/takes'
import type { Lesson, Step } from '@/core/lesson/document'
import { mediaOf } from '@/core/lesson/usedMedia'
import type { Timeline } from '@/core/lesson/timeline'
import type { MediaInfo } from '@/core/messages/media'
import { clearanceReadings, CORRIDOR, targetAt } from '@/core/mix/balanceSheet'
import type { AnalysisOf, PlannedMix } from '@/core/mix/mixPlan'
import { checkOver } from './over'
import { checkHum } from './hum'
import { checkVoices } from './voices'
import { checkSounds } from './sounding'
import { HOP } from '@/core/measure/energyMeter'
import { spokenTime } from '@/core/measure/speech'
import type { Analysis } from '@/core/measure/analysis'
import type { LoudnessUnits, Seconds } from '@/core/units'
import { decimal } from '@/messages/numbers'
import { say } from '@/messages/say'
import type { Finding, FindingCode } from './finding'

const SHORTEST_PICTURE: Seconds = 1
/** Longer than this nobody looks at one picture. */
const LONGEST_PICTURE: Seconds = 180
const NOTICED_FROM: Seconds = 0.5
/** Nearer music makes speech hard to follow for many; WCAG 2.2, 1.4.7 asks for 20 dB. */
const LEAST_CLEARANCE: LoudnessUnits = 9

/** Everything that can be found without rendering. */
export function checkLesson(
  lesson: Lesson,
  timeline: Timeline,
  planned: PlannedMix,
  analysisOf: AnalysisOf,
  infoOf: (hash: string) => MediaInfo | undefined,
): Finding[] {
  if (lesson.steps.length === 0) {
    return [{ severity: 'fault', code: 'no-steps', text: say('findings.noSteps') }]
  }
  return [
    ...checkMedia(lesson, infoOf),
    ...checkSteps(lesson, timeline, analysisOf),
    ...checkSpoken(lesson, timeline),
    ...checkTakes(timeline, analysisOf),
    ...checkVoices(lesson, timeline, analysisOf),
    ...checkHum(lesson, timeline, analysisOf, infoOf),
    ...checkSounds(lesson, timeline, analysisOf),
    ...checkOver(lesson, timeline),
    ...checkBalance(lesson, timeline, planned),
    ...checkClearance(lesson),
    ...checkLicences(lesson),
  ]
}

function checkMedia(lesson: Lesson, infoOf: (hash: string) => MediaInfo | undefined): Finding[] {
  const all = new Set([...lesson.shelf.map(({ media }) => media), ...mediaOf(lesson)])
  return [...all].flatMap((hash): Finding[] => {
    const media = infoOf(hash)
    const item = lesson.shelf.find((one) => one.media === hash)
    if (!media) {
      const name = item?.title ?? takeName(lesson, hash) ?? say('findings.aPictureOrSound')
      const text = say('findings.missingFile', { name })
      return [{ severity: 'fault', code: 'missing-media', text }]
    }
    return media.note && item
      ? [{ severity: 'warning', code: 'cut-off-file', text: `${item.title}: ${media.note}` }]
      : []
  })
}

const takeName = (lesson: Lesson, hash: string) => lesson.takes.find(({ media }) => media === hash)?.name

/** Pictures over which nobody says anything, while the rest is spoken: the voice was probably laid past them. */
function checkSpoken({ steps }: Lesson, timeline: Timeline): Finding[] {
  const isSpoken = ({ passages, script }: Step) => passages.length > 0 || script.trim() !== ''
  const first = steps.findIndex(isSpoken)
  const last = steps.findLastIndex(isSpoken)
  return timeline.steps.flatMap(({ step, index, start }): Finding[] => {
    // A title before the first word and pictures after the last one are usual.
    const isUsual = first < 0 || index < first || (index > last && last - first > 0 && index === steps.length - 1)
    if (isUsual || isSpoken(step) || step.picture.kind === 'card' || hasOwnSound(step)) return []
    const text = say('findings.nothingSaid', { number: index + 1 })
    return [{ severity: 'warning', code: 'nothing-said', stepId: step.id, at: start, text }]
  })
}

const hasOwnSound = ({ picture }: Step) => picture.kind === 'recording' && picture.gain !== null

function checkSteps(lesson: Lesson, timeline: Timeline, analysisOf: AnalysisOf): Finding[] {
  return timeline.steps.flatMap(({ step, index, start, end, overrun }) => {
    const about = (severity: Finding['severity'], code: FindingCode, text: string): Finding => ({
      severity,
      code,
      stepId: step.id,
      at: start,
      text: say('findings.ofStep', { number: index + 1, what: text }),
    })
    const found: Finding[] = []
    if (overrun > 0.05) {
      found.push(about('fault', 'words-run-over', say('findings.wordsRunOver', { overrun: decimal(overrun, 1) })))
    }
    if (end - start < SHORTEST_PICTURE) {
      found.push(
        about(
          'warning',
          'flashing-picture',
          say('findings.flashingPicture', { time: decimal(end - start), least: SHORTEST_PICTURE }),
        ),
      )
    }
    if (end - start > LONGEST_PICTURE && staysTheSame(step)) {
      const minutes = decimal((end - start) / 60)
      found.push(about('hint', 'long-picture', say('findings.longPicture', { minutes })))
    }
    if (step.script.trim() && step.passages.length === 0) {
      found.push(about('warning', 'script-without-voice', say('findings.nobodyReads')))
    }
    if (isStandIn(lesson, step)) {
      found.push(about('hint', 'stand-in', say('findings.standsIn')))
    }
    if (isOutdated(lesson, step)) {
      found.push(about('warning', 'script-changed', say('findings.scriptHasChanged')))
    }
    if (step.passages.length > 0 && step.passages.every((passage) => isSilent(passage, analysisOf))) {
      found.push(about('warning', 'only-silence', say('findings.onlySilence')))
    }
    return found
  })
}

/** Nothing moves in it, comes into it or lies over it. */
const staysTheSame = ({ picture, more, layers }: Step) =>
  picture.kind !== 'recording' && more.length === 0 && layers.length === 0

function checkClearance({ bedCues, targets }: Lesson): Finding[] {
  if (bedCues.length === 0 || targets.clearance >= LEAST_CLEARANCE) return []
  const text = say('findings.nearMusic', { clearance: targets.clearance })
  return [{ severity: 'warning', code: 'near-music', text }]
}

function isSilent({ media, from, to }: { media: string; from: Seconds; to: Seconds }, analysisOf: AnalysisOf): boolean {
  const analysis = analysisOf(media)
  if (!analysis) return false
  return spokenTime(takeSpeech(analysis).filter(({ start, end }) => end > from && start < to)) < 0.1
}

/** Where a used part of a take is clipped: flat tops, told in the booth by the same measure (see measure/analysis.ts). */
function checkTakes(timeline: Timeline, analysisOf: AnalysisOf): Finding[] {
  return timeline.passages.flatMap(({ passage, sound, step, start, end }): Finding[] => {
    const analysis = analysisOf(sound)
    const places = analysis ? clippedHops(analysis, passage.from, passage.from + end - start) : []
    if (places.length < 3) return []
    const at = start + places[0]! - passage.from
    return [
      {
        severity: 'warning',
        code: 'clipped-take',
        stepId: step.id,
        at,
        text: say('findings.clippedTake', { count: places.length, step: step.title }),
      },
    ]
  })
}

const clippedHops = ({ clips }: Analysis, from: Seconds, to: Seconds): Seconds[] =>
  Array.from(clips, (hop) => hop * HOP).filter((at) => at >= from && at < to)

/** Stretches of speech over which the planned mix leaves the corridor. */
function checkBalance(lesson: Lesson, timeline: Timeline, { levels }: PlannedMix): Finding[] {
  if (lesson.bedCues.length === 0) return []
  const readings = clearanceReadings(levels.voice, levels.bed, levels.speech)
  const runs = (outside: (clearance: number, target: number) => boolean) => {
    const found: { from: Seconds; to: Seconds; worst: number }[] = []
    for (const { at, clearance } of readings) {
      const target = targetAt(levels.clearance, at)
      if (!outside(clearance, target)) continue
      const last = found.at(-1)
      const off = Math.abs(clearance - target)
      if (last && at - last.to < 0.25) Object.assign(last, { to: at, worst: Math.max(last.worst, off) })
      else found.push({ from: at, to: at, worst: off })
    }
    return found.filter(({ from, to }) => to - from >= NOTICED_FROM)
  }
  const stepAt = (time: Seconds) => timeline.steps.findLast(({ start }) => start <= time)
  /** One finding a step, at its first place. */
  const findings = (
    code: FindingCode,
    severity: Finding['severity'],
    places: ReturnType<typeof runs>,
    what: 'findings.closer' | 'findings.fainter',
  ) =>
    timeline.steps.flatMap((span): Finding[] => {
      const own = places.filter(({ from }) => stepAt(from) === span)
      if (own.length === 0) return []
      const worst = Math.max(...own.map((place) => place.worst))
      const text = say(what, { number: span.index + 1, worst: decimal(worst), count: own.length })
      return [{ severity, code, stepId: span.step.id, at: own[0]!.from, text }]
    })
  const nearer = runs((clearance, target) => clearance < target - CORRIDOR)
  const fainter = runs((clearance, target) => clearance > target + CORRIDOR)
  return [
    ...findings('voice-masked', 'warning', nearer, 'findings.closer'),
    ...findings('bed-lost', 'hint', fainter, 'findings.fainter'),
  ]
}

function checkLicences(lesson: Lesson): Finding[] {
  const used = new Set([...lesson.bedCues, ...lesson.sounds].map(({ media }) => media))
  return lesson.shelf
    .filter((item) => used.has(item.media) && !item.licence.trim())
    .map((item) => ({
      severity: 'hint',
      code: 'licence-unknown',
      text: say('findings.licenceUnknown', { title: item.title }),
    }))
}

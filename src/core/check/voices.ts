import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import { takeLoudness } from '@/core/measure/takeVoice'
import type { AnalysisOf } from '@/core/mix/mixPlan'
import type { Lufs } from '@/core/units'
import { say } from '@/messages/say'
import type { Finding } from './finding'

/** Softer takes have to be raised so far that the noise of microphone and room comes with them. */
const SOFT: Lufs = -45

/** Takes that were recorded too softly: one finding a take, where it is first heard. */
export function checkVoices(lesson: Lesson, timeline: Timeline, analysisOf: AnalysisOf): Finding[] {
  const told = new Set<string>()
  return timeline.passages.flatMap(({ passage, sound, step, start }): Finding[] => {
    const analysis = analysisOf(sound)
    const loudness = analysis ? takeLoudness(analysis) : null
    if (loudness === null || loudness >= SOFT || told.has(passage.media)) return []
    told.add(passage.media)
    const name = lesson.takes.find(({ media }) => media === passage.media)?.name ?? step.title
    const text = say('findings.softVoice', { name, loudness: Math.round(loudness) })
    return [{ severity: 'warning', code: 'soft-voice', stepId: step.id, at: start, text }]
  })
}

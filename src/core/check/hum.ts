import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import { takeLoudness } from '@/core/measure/takeVoice'
import type { MediaInfo } from '@/core/messages/media'
import type { AnalysisOf } from '@/core/mix/mixPlan'
import { isHeard } from '@/core/narration/cleanUp/advice'
import { decimal } from '@/messages/numbers'
import { say } from '@/messages/say'
import type { Finding } from './finding'

/** Takes in which the mains hum beside the voice and nothing takes it out: one finding a file, where it is first heard. */
export function checkHum(
  lesson: Lesson,
  timeline: Timeline,
  analysisOf: AnalysisOf,
  infoOf: (hash: string) => MediaInfo | undefined,
): Finding[] {
  const told = new Set<string>()
  return timeline.passages.flatMap(({ passage: { media }, step, start }): Finding[] => {
    const [hum, analysis] = [infoOf(media)?.hum ?? null, analysisOf(media)]
    const take = lesson.takes.find((one) => one.media === media)
    const isTakenOut = (take?.cleanUp ?? lesson.cleanUp).hiss.on
    if (told.has(media) || isTakenOut || !analysis || !isHeard(hum, takeLoudness(analysis))) return []
    told.add(media)
    const text = say('findings.hum', { take: take?.name ?? step.title, at: decimal(hum!.at, 0) })
    return [{ severity: 'warning', code: 'hum', stepId: step.id, at: start, subject: media, text }]
  })
}

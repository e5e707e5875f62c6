import type { Lesson } from '@/core/lesson/document'
import type { Layer } from '@/core/lesson/layers'
import { stepAt } from '@/core/lesson/layout'
import type { Timeline } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { titleOf } from '../../words/anchors'
import { layerTitle } from '../../over/layerNames'

/** Something that hangs in a row at a moment of the lesson. */
export interface RowTab {
  id: string
  kind: 'sound' | 'picture' | 'layer' | 'bed'
  title: string
  /** Drawn before its title, or in its place. */
  sign: string
  start: Seconds
  end: Seconds
}

const LAYER_SIGNS: Record<Layer['kind'], string> = { words: 'Aa', pointer: '◎', cover: '▩', closer: '⊕' }

/** The tabs of each step: sounds and music that begin in it, and its further pictures. */
export function tabsByStep(lesson: Lesson, timeline: Timeline): Map<string, RowTab[]> {
  const tabs = new Map<string, RowTab[]>()
  const put = (step: string, tab: RowTab) => tabs.set(step, [...(tabs.get(step) ?? []), tab])
  for (const { cue, start, end } of timeline.sounds) {
    const span = stepAt(timeline, start)
    if (span) put(span.step.id, { id: cue.id, kind: 'sound', sign: '◆', title: titleOf(lesson, cue.media), start, end })
  }
  for (const { cue, start, end } of timeline.beds) {
    const span = stepAt(timeline, start)
    if (span) put(span.step.id, { id: cue.id, kind: 'bed', sign: '♪', title: titleOf(lesson, cue.media), start, end })
  }
  for (const { step, further, start, end } of timeline.pictures) {
    if (further) put(step.id, { id: further, kind: 'picture', sign: '▣', title: say('score.nextPicture'), start, end })
  }
  for (const { step, layer, start, end } of timeline.layers)
    put(step.id, { id: layer.id, kind: 'layer', sign: LAYER_SIGNS[layer.kind], title: layerTitle(layer), start, end })
  return tabs
}

'use client'

import type { Lesson } from '@/core/lesson/document'
import { stepAt } from '@/core/lesson/layout'
import type { Timeline } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import { titleOf } from '../../words/anchors'
import { ThingTab } from './ThingTab'
import type { SheetGeometry } from './view'
import styles from './row.module.css'

/** Something that hangs in a row at a moment of the lesson. */
export interface RowTab {
  id: string
  kind: 'sound' | 'picture' | 'music'
  title: string
  start: Seconds
  end: Seconds
}

/** The tabs of each step: sounds and music that begin in it, and its further pictures. */
export function tabsByStep(lesson: Lesson, timeline: Timeline): Map<string, RowTab[]> {
  const tabs = new Map<string, RowTab[]>()
  const put = (step: string, tab: RowTab) => tabs.set(step, [...(tabs.get(step) ?? []), tab])
  for (const { cue, start, end } of timeline.sounds) {
    const span = stepAt(timeline, start)
    if (span) put(span.step.id, { id: cue.id, kind: 'sound', title: titleOf(lesson, cue.media), start, end })
  }
  for (const { cue, start, end } of timeline.beds) {
    const span = stepAt(timeline, start)
    if (span) put(span.step.id, { id: cue.id, kind: 'music', title: titleOf(lesson, cue.media), start, end })
  }
  for (const { step, picture, start, end } of timeline.pictures) {
    const further = step.more.find((one) => one.picture === picture)
    if (further) put(step.id, { id: further.id, kind: 'picture', title: 'Next picture', start, end })
  }
  return tabs
}

const CLASSES = { sound: styles.soundTab!, picture: styles.pictureTab!, music: styles.musicTab! }

/** Small tabs in a line; a sound's tab is as long as it sounds. */
export function Tabs({
  tabs,
  from,
  to,
  x,
  geometry,
}: {
  tabs: readonly RowTab[]
  from: Seconds
  to: Seconds
  x: (time: Seconds) => number
  geometry: SheetGeometry
}) {
  return tabs
    .filter(({ start }) => start >= from - 1e-6 && start < to)
    .map(({ id, kind, title, start, end }) => (
      <ThingTab
        key={id}
        picked={{ kind, id }}
        label={`${NAMES[kind]}: ${title}`}
        className={CLASSES[kind]}
        style={{
          left: x(start),
          ...(kind === 'sound' && { minWidth: Math.min(x(to) - x(start), (end - start) * geometry.pixelsPerSecond) }),
        }}
      >
        <span aria-hidden="true">{SIGNS[kind]} </span>
        {kind === 'picture' ? <span className="visually-hidden">{title}</span> : title}
      </ThingTab>
    ))
}

const SIGNS = { sound: '◆', picture: '▣', music: '♪' }
const NAMES = { sound: 'Sound', picture: 'Picture', music: 'Music' }

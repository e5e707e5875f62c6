import { useMemo, useRef } from 'react'
import type { Lesson } from '@/core/lesson/document'
import type { PassageSpan, StepSpan, Timeline } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import { keepList } from '../../lesson/settle'
import { tabsByStep, type RowTab } from './rowTabs'

/** A step that knows nothing of its number: those after it may get another. */
export type RowSpan = Omit<StepSpan, 'index'>

/**
 * What a row shows, in times counted from its step's beginning: a row knows nothing of where in the lesson it lies, and an
 * edit before it leaves it the very object it was.
 */
export interface RowContent {
  span: RowSpan
  passages: readonly PassageSpan[]
  tabs: readonly RowTab[]
}

type Contents = ReadonlyMap<string, RowContent>

export function rowContents(lesson: Lesson, timeline: Timeline, before: Contents): Contents {
  const passages = new Map<string, PassageSpan[]>(timeline.steps.map(({ step }) => [step.id, []]))
  for (const span of timeline.passages) passages.get(span.step.id)!.push(span)
  const tabs = tabsByStep(lesson, timeline)
  const content = (span: StepSpan): RowContent => {
    const id = span.step.id
    const old = before.get(id)
    const shifted = <T extends { start: Seconds; end: Seconds }>(all: readonly T[] = []) =>
      all.map((one) => ({ ...one, start: one.start - span.start, end: one.end - span.start }))
    const next: RowContent = {
      span: kept({ step: span.step, start: 0, end: span.end - span.start, overrun: span.overrun }, old?.span),
      passages: keptAll(shifted(passages.get(id)), old?.passages),
      tabs: keptAll(shifted(tabs.get(id)), old?.tabs),
    }
    return kept(next, old)
  }
  return new Map(timeline.steps.map((span) => [span.step.id, content(span)]))
}

export function useRowContents(lesson: Lesson, timeline: Timeline): Contents {
  const before = useRef<Contents>(new Map())
  return useMemo(() => {
    // eslint-disable-next-line react-hooks/refs -- what was drawn before decides only which equal object is used
    const next = rowContents(lesson, timeline, before.current)
    // eslint-disable-next-line react-hooks/refs
    before.current = next
    return next
  }, [lesson, timeline])
}

const keptAll = <T extends object>(next: readonly T[], before: readonly T[] | undefined): readonly T[] =>
  keepList(
    next.map((one, i) => kept(one, before?.[i])),
    before,
  )

/** The old object where the new one is equal to it in all fields. */
function kept<T extends object>(next: T, before: T | undefined): T {
  const isAlike = before && (Object.keys(next) as (keyof T)[]).every((key) => isEqual(next[key], before[key]))
  return isAlike ? before : next
}

/** Sums of times differ in their last digits, in whatever order they are taken. */
const isEqual = (a: unknown, b: unknown): boolean =>
  a === b || (typeof a === 'number' && typeof b === 'number' && Math.abs(a - b) < 1e-6)

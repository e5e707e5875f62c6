'use client'

import type { Virtualizer } from '@tanstack/react-virtual'
import { useEffect, useLayoutEffect, useRef, type RefObject } from 'react'
import type { Timeline } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import { ROW_TOP, useSheetView, type SheetGeometry } from './view'

export type RowList = Virtualizer<HTMLDivElement, Element>

/** Where a moment of the lesson lies in the scrolled content, in pixels. */
export function placeOf(
  time: Seconds,
  rows: RowList,
  timeline: Timeline,
  geometry: SheetGeometry,
): { x: number; y: number } | null {
  const index = timeline.steps.findLastIndex(({ start }) => start <= time)
  const span = timeline.steps[index]
  const row = rows.measurementsCache[index]
  if (!span || !row) return null
  const into = Math.min(time, span.end) - span.start
  const line = Math.max(0, Math.ceil(into / geometry.lineSeconds - 1e-9) - 1)
  return {
    x: geometry.left + (into - line * geometry.lineSeconds) * geometry.pixelsPerSecond,
    y: row.start + ROW_TOP + line * geometry.lineHeight,
  }
}

/** The moment of the lesson under a place in the scrolled content. */
function timeAt(x: number, y: number, rows: RowList, timeline: Timeline, geometry: SheetGeometry): Seconds | null {
  const row = rows.measurementsCache.find(({ start, end }) => y >= start && y < end)
  const span = row && timeline.steps[row.index]
  if (!row || !span) return null
  const line = Math.max(0, Math.floor((y - row.start - ROW_TOP) / geometry.lineHeight))
  const into = line * geometry.lineSeconds + Math.max(0, x - geometry.left) / geometry.pixelsPerSecond
  return Math.min(span.end, span.start + into)
}

/** Ctrl and wheel change the scale; the moment under the pointer stays at its height in the window. */
export function useZoom(
  scroller: RefObject<HTMLDivElement | null>,
  rows: RowList,
  timeline: Timeline,
  geometry: SheetGeometry,
): void {
  const anchor = useRef<{ time: Seconds; offset: number } | null>(null)

  useEffect(() => {
    const element = scroller.current
    if (!element) return
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return
      event.preventDefault()
      const box = element.getBoundingClientRect()
      const time = timeAt(
        event.clientX - box.left,
        event.clientY - box.top + element.scrollTop,
        rows,
        timeline,
        geometry,
      )
      anchor.current = time === null ? null : { time, offset: event.clientY - box.top }
      const { pixelsPerSecond, setScale } = useSheetView.getState()
      setScale(pixelsPerSecond * Math.exp(-event.deltaY * 0.002))
    }
    element.addEventListener('wheel', wheel, { passive: false })
    return () => element.removeEventListener('wheel', wheel)
  }, [scroller, rows, timeline, geometry])

  useLayoutEffect(() => {
    const held = anchor.current
    if (!held || !scroller.current) return
    anchor.current = null
    const place = placeOf(held.time, rows, timeline, geometry)
    if (place) scroller.current.scrollTo({ top: place.y + geometry.lineHeight / 2 - held.offset })
  }, [scroller, rows, timeline, geometry])
}

/**
 * Scrolls to a row that is not in sight: to the beginning of one that is longer than the window. By what the list knows, since
 * to scroll, even to where it is already, has the whole page laid out.
 */
export function bringIntoSight(rows: RowList, index: number): void {
  const row = rows.measurementsCache[index]
  const [top, height] = [rows.scrollOffset ?? 0, rows.scrollRect?.height ?? 0]
  if (!row || (row.start >= top && row.end <= top + height)) return
  rows.scrollToIndex(index, { align: row.size > height ? 'start' : 'auto' })
}

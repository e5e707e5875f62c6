'use client'

import { useEffect, useRef, type RefObject } from 'react'
import { useDesk, useTimeline } from '../../lesson/context'
import { useFrames } from '../../player/useFrames'
import { placeOf, type RowList } from './useZoom'
import { BED_HEIGHT, WORDS_HEIGHT, type SheetGeometry } from './view'
import styles from '../sheet.module.css'

interface PlayheadProps {
  rows: RowList
  geometry: SheetGeometry
  scroller: RefObject<HTMLDivElement | null>
}

/** The place that is heard now. Moved outside React, a frame at a time; scrolls along while playing. */
export function Playhead({ rows, geometry, scroller }: PlayheadProps) {
  const { player } = useDesk()
  const timeline = useTimeline()
  const mark = useRef<HTMLDivElement>(null)
  const word = useRef<HTMLElement | null>(null)
  useFrames(() => {
    const place = placeOf(player.position(), rows, timeline, geometry)
    if (mark.current) {
      mark.current.style.display = place ? 'block' : 'none'
      if (place) mark.current.style.transform = `translate(${place.x}px, ${place.y}px)`
    }
    if (place && player.isPlaying() && scroller.current) follow(scroller.current, place.y, geometry.lineHeight)
    word.current = markWord(word.current, scroller.current, player.isPlaying() ? player.position() : null)
  })
  useEffect(() => () => void markWord(word.current, null, null), [])
  return (
    <div
      ref={mark}
      className={styles.playhead}
      style={{ height: WORDS_HEIGHT + geometry.waveHeight + BED_HEIGHT }}
      data-testid="playhead"
    />
  )
}

/** Marks the word that is heard now, and no other; returns it. */
function markWord(before: HTMLElement | null, root: HTMLElement | null, time: number | null): HTMLElement | null {
  const isSaidNow = (word: HTMLElement) => {
    if (time === null) return false
    // Words are told in the time of their step.
    const own = time - Number(word.closest<HTMLElement>('[data-start]')!.dataset.start)
    return Number(word.dataset.from) <= own && own < Number(word.dataset.to)
  }
  if (before?.isConnected && isSaidNow(before)) return before
  before?.removeAttribute('data-now')
  if (time === null || !root) return null
  const now = [...root.querySelectorAll<HTMLElement>('[data-word]')].find(isSaidNow) ?? null
  now?.setAttribute('data-now', '')
  return now
}

function follow(element: HTMLDivElement, y: number, lineHeight: number): void {
  if (y < element.scrollTop || y + lineHeight > element.scrollTop + element.clientHeight)
    element.scrollTop = y - lineHeight / 2
}

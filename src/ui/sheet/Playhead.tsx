'use client'

import { useEffect, useRef, type RefObject } from 'react'
import { useDesk, useTimeline } from '../lesson/context'
import { placeOf, type RowList } from './useZoom'
import { BED_HEIGHT, WORDS_HEIGHT, type SheetGeometry } from './view'
import styles from './sheet.module.css'

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
  useEffect(() => {
    let frame = 0
    const move = () => {
      const place = placeOf(player.position(), rows, timeline, geometry)
      if (mark.current) {
        mark.current.style.display = place ? 'block' : 'none'
        if (place) mark.current.style.transform = `translate(${place.x}px, ${place.y}px)`
      }
      if (place && player.isPlaying() && scroller.current) follow(scroller.current, place.y, geometry.lineHeight)
      frame = requestAnimationFrame(move)
    }
    move()
    return () => cancelAnimationFrame(frame)
  }, [player, rows, timeline, geometry, scroller])
  return (
    <div
      ref={mark}
      className={styles.playhead}
      style={{ height: WORDS_HEIGHT + geometry.waveHeight + BED_HEIGHT }}
      data-testid="playhead"
    />
  )
}

function follow(element: HTMLDivElement, y: number, lineHeight: number): void {
  if (y < element.scrollTop || y + lineHeight > element.scrollTop + element.clientHeight)
    element.scrollTop = y - lineHeight / 2
}

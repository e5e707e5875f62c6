'use client'

import { useEffect, useRef, type RefObject } from 'react'
import type { PassageSpan } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import { useColours } from '../../ground/useGround'
import { useDesk } from '../../lesson/context'
import { timelineOf, type LessonState } from '../../lesson/lessonStore'
import { drawLine } from './drawLine'
import type { RowSpan } from './rowContents'
import type { SheetGeometry } from './view'

interface DrawnLine {
  span: RowSpan
  passages: readonly PassageSpan[]
  hasBed: boolean
  /** Counted from the step's beginning. */
  from: Seconds
  to: Seconds
  geometry: SheetGeometry
}

/** A canvas with one line of a row; drawn anew only where its waves or the music under it have changed. */
export function useDrawnLine(line: DrawnLine): RefObject<HTMLCanvasElement | null> {
  const { store } = useDesk()
  const colours = useColours()
  const canvas = useRef<HTMLCanvasElement>(null)
  const { span, passages, hasBed, from, to, geometry } = line
  useEffect(() => {
    let waves: readonly unknown[] | null = null
    let bed: Float32Array | null = null
    const draw = () => {
      const state = store.getState()
      const wavesNow = passages.map(({ passage }) => state.analyses.get(passage.media))
      const bedNow = hasBed ? bedUnder(state, span.step.id, from, to) : null
      if (waves && isSameList(wavesNow, waves) && isSameLevels(bedNow, bed)) return
      waves = wavesNow
      bed = bedNow
      const content = { span, passages, bed, colours, analysisOf: (media: string) => state.analyses.get(media) }
      drawLine(canvas.current!, from, to, content, geometry)
    }
    draw()
    return store.subscribe((now, before) => {
      if (now.mix !== before.mix || now.analyses !== before.analyses) draw()
    })
  }, [store, span, passages, hasBed, from, to, geometry, colours])
  return canvas
}

/** Loudness of the music under a line, each tenth of a second; null where nothing is planned yet. */
function bedUnder({ mix, history }: LessonState, step: string, from: Seconds, to: Seconds): Float32Array | null {
  const span = mix && timelineOf(history.lesson).steps.find((one) => one.step.id === step)
  if (!mix || !span) return null
  const first = Math.round((span.start + from) * 10)
  return mix.bed.slice(first, first + Math.ceil((to - from) * 10) + 2)
}

const isSameList = (a: readonly unknown[], b: readonly unknown[]) =>
  a.length === b.length && a.every((one, i) => one === b[i])

/** Less than this in LU makes no difference of a pixel. */
const SEEN = 0.1

const isSameLevels = (a: Float32Array | null, b: Float32Array | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.length === b.length &&
    a.every((level, i) => Object.is(level, b[i]) || Math.abs(level - b[i]!) < SEEN))

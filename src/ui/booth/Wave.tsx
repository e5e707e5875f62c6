'use client'

import { useEffect, useRef } from 'react'
import type { Analysis } from '@/core/measure/analysis'
import { useColours } from '../ground/useGround'
import { HOP } from '@/core/measure/energyMeter'
import type { Seconds } from '@/core/units'
import { drawWave, penOn } from '../parts/wave'

const HEIGHT = 34

/** A part of a take's wave, fitted to its width; clipped places are marked above it. */
export function Wave({ analysis, from, to, used }: { analysis: Analysis; from: Seconds; to: Seconds; used: boolean }) {
  const colours = useColours()
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const element = canvas.current
    if (element)
      draw(element, analysis, from, to, { wave: used ? colours.voice : colours.quietVoice, fault: colours.fault })
  }, [analysis, from, to, used, colours])
  return <canvas ref={canvas} height={HEIGHT} style={{ width: '100%', height: HEIGHT, display: 'block' }} aria-hidden />
}

function draw(
  canvas: HTMLCanvasElement,
  { wave, clips }: Analysis,
  from: Seconds,
  to: Seconds,
  colours: { wave: string; fault: string },
): void {
  const width = canvas.clientWidth || 240
  const pen = penOn(canvas, width, HEIGHT)
  const timeAt = (x: number) => from + ((to - from) * x) / width
  drawWave(pen, wave, { from: 0, to: width, middle: HEIGHT / 2, timeAt }, colours)
  for (const clip of clips) {
    const x = ((clip * HOP - from) / (to - from)) * width
    if (x >= 0 && x <= width) pen.fillRect(x - 1, 0, 3, 6)
  }
}

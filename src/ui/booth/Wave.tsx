'use client'

import { useEffect, useRef } from 'react'
import type { Analysis } from '@/core/measure/analysis'
import { useColours } from '../ground/useGround'
import { HOP } from '@/core/measure/energyMeter'
import type { Seconds } from '@/core/units'

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
  const density = window.devicePixelRatio || 1
  const width = canvas.clientWidth || 240
  canvas.width = width * density
  canvas.height = HEIGHT * density
  const pen = canvas.getContext('2d')!
  pen.scale(density, density)
  pen.fillStyle = colours.wave
  const hop = (x: number) => Math.floor((from + ((to - from) * x) / width) / HOP)
  for (let x = 0; x < width; x++) {
    let [low, high] = [0, 0]
    for (let h = hop(x); h < Math.max(hop(x) + 1, hop(x + 1)); h++) {
      low = Math.min(low, wave[2 * h] ?? 0)
      high = Math.max(high, wave[2 * h + 1] ?? 0)
    }
    const scale = (HEIGHT / 2 - 2) / 127
    const top = HEIGHT / 2 - Math.min(127, high * 1.5) * scale
    pen.fillRect(x, top, 1, Math.max(1, HEIGHT / 2 - Math.max(-127, low * 1.5) * scale - top))
  }
  pen.fillStyle = colours.fault
  for (const clip of clips) {
    const x = ((clip * HOP - from) / (to - from)) * width
    if (x >= 0 && x <= width) pen.fillRect(x - 1, 0, 3, 6)
  }
}

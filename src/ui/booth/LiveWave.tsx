'use client'

import { useEffect, useRef } from 'react'
import { say } from '@/messages/say'
import { useColours } from '../ground/useGround'
import { penOn, WAVE_GAIN } from '../parts/wave'
import { PEAK_EVERY, type Booth } from './useBooth'
import styles from './booth.module.css'

const SHOWN = 20 // s
const HEIGHT = 56

/** The wave of what is being recorded, as it is written: its last seconds. */
export function LiveWave({ booth }: { booth: Booth }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const colours = useColours()
  const { peaks } = booth
  useEffect(() => {
    let frame = 0
    let drawn = -1
    const draw = () => {
      const all = peaks()
      if (canvas.current && all.length !== drawn) drawPeaks(canvas.current, all, colours)
      drawn = all.length
      frame = requestAnimationFrame(draw)
    }
    draw()
    return () => cancelAnimationFrame(frame)
  }, [peaks, colours])
  return (
    <canvas
      ref={canvas}
      className={styles.live}
      role="img"
      aria-label={say('booth.whatIsBeingRecorded')}
      data-testid="live-wave"
    />
  )
}

function drawPeaks(
  canvas: HTMLCanvasElement,
  peaks: readonly number[],
  colours: { voice: string; fault: string; line: string },
): void {
  const width = canvas.clientWidth
  const pen = penOn(canvas, width, HEIGHT)
  pen.fillStyle = colours.line
  pen.fillRect(0, HEIGHT / 2 - 0.5, width, 1)
  const count = Math.round(SHOWN / PEAK_EVERY)
  const step = width / count
  peaks.slice(-count).forEach((peak, i) => {
    const height = Math.max(1, Math.min(1, peak * WAVE_GAIN) * HEIGHT)
    pen.fillStyle = peak > 0.98 ? colours.fault : colours.voice
    pen.fillRect(i * step, (HEIGHT - height) / 2, Math.max(1, step - 0.5), height)
  })
}

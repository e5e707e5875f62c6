'use client'

import { useRef, type RefObject } from 'react'
import { placeInFrame } from '@/core/picture/frame'
import { useTimeline } from '../lesson/context'
import { naturalSize } from './naturalSize'
import { useUnder } from './useUnder'
import styles from './easel.module.css'

/** Pixels of the shorter side: it is blurred anyway. */
const LINES = 90
const FILLING = { way: 'fill', ground: 'plain', middle: { x: 0.5, y: 0.5 } } as const

/** The picture itself, larger and blurred, as the ground it stands on. */
export function BlurredGround({ under }: { under: RefObject<HTMLDivElement | null> }) {
  const { frame } = useTimeline()
  const canvas = useRef<HTMLCanvasElement>(null)
  const scale = LINES / Math.min(frame.width, frame.height)
  const [wide, high] = [Math.round(frame.width * scale), Math.round(frame.height * scale)]
  useUnder(under, () => {
    const source = under.current?.querySelector<HTMLImageElement | HTMLVideoElement>('[data-under]')
    const context = canvas.current?.getContext('2d')
    const natural = source && naturalSize(source)
    if (!context || !natural || natural.width === 0) return
    const { x, y, width, height } = placeInFrame(natural, { width: wide, height: high }, FILLING)
    context.imageSmoothingQuality = 'high'
    context.drawImage(source, x, y, width, height)
  })
  return (
    <div className={styles.ground} aria-hidden="true">
      <canvas ref={canvas} width={wide} height={high} />
    </div>
  )
}

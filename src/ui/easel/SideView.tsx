'use client'

import { FRAME } from '@/core/picture/frame'
import { useEffect, useRef, type CSSProperties, type RefObject } from 'react'
import type { Area, Look } from '@/core/lesson/layers'
import { drawPointer } from '@/core/picture/pointers'
import { blockSize, pixelsOf } from '@/core/picture/raster'
import type { Side } from '@/core/picture/stack'
import { cardUrl, layerUrl, pageUrl } from '../api'
import { usePlacing } from '../over/placing'
import { RecordingPicture } from './RecordingPicture'
import styles from './easel.module.css'

/** A picture with what lies over it, as the finished video has it. */
export function SideView({ side, look, style }: { side: Side; look: Look; style?: CSSProperties }) {
  const { span, seen } = side
  const { picture, step } = span
  const under = useRef<HTMLDivElement>(null)
  const draft = usePlacing(({ draft: moved }) => moved)
  const layers = side.layers.map((one) =>
    draft?.id === one.layer.id ? { ...one, area: draft.area, layer: { ...one.layer, area: draft.area } } : one,
  )
  const near: CSSProperties | undefined =
    seen.width === 1
      ? undefined
      : { transform: `scale(${1 / seen.width}) translate(${-seen.x * 100}%, ${-seen.y * 100}%)` }
  return (
    <div className={styles.side} style={style}>
      <div className={styles.near} style={near} ref={under}>
        {picture.kind === 'recording' ? (
          <RecordingPicture key={span.start} span={span} />
        ) : (
          <img
            src={picture.kind === 'card' ? cardUrl(picture.lines) : pageUrl(picture.media, picture.page)}
            alt={step.title}
            data-under=""
          />
        )}
        {layers
          .filter(({ layer }) => layer.kind !== 'words')
          .map((one) => (
            <OverPicture key={one.layer.id} {...one} look={look} under={under} />
          ))}
      </div>
      {layers
        .filter(({ layer }) => layer.kind === 'words')
        .map(({ layer, share }) => (
          <img
            key={layer.id}
            className={styles.over}
            src={layerUrl(layer, look)}
            alt={layer.kind === 'words' ? layer.text : ''}
            style={{ opacity: share }}
          />
        ))}
    </div>
  )
}

type OverProps = Side['layers'][number] & { look: Look; under: RefObject<HTMLDivElement | null> }

/** What points and what covers: drawn here, since it moves. */
function OverPicture({ layer, area, share, look, under }: OverProps) {
  if (layer.kind === 'cover') {
    if (layer.way === 'blocks') return <Blocks area={area} under={under} />
    return <div className={styles.cover} style={{ ...placed(area), background: look.ground }} />
  }
  if (layer.kind === 'pointer' && layer.shape !== 'number') {
    const { path, stroke } = drawPointer({ ...layer, area }, FRAME, share)
    return (
      <svg className={styles.over} viewBox={`0 0 ${FRAME.width} ${FRAME.height}`} aria-hidden="true">
        <g fill="none" strokeLinecap="round" strokeLinejoin="round">
          <path d={path} stroke={look.ground} strokeWidth={stroke * 1.7} />
          <path d={path} stroke={look.accent} strokeWidth={stroke} />
        </g>
      </svg>
    )
  }
  return <img className={styles.over} src={layerUrl({ ...layer, area }, look)} alt="" style={{ opacity: share }} />
}

const placed = ({ x, y, width, height }: Area): CSSProperties => ({
  left: `${x * 100}%`,
  top: `${y * 100}%`,
  width: `${width * 100}%`,
  height: `${height * 100}%`,
})

/** Blocks of the mean colour of what is under them, at every frame. */
function Blocks({ area, under }: { area: Area; under: RefObject<HTMLDivElement | null> }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const [left, top, right, bottom] = pixelsOf(area, FRAME)
  const size = blockSize(right - left, bottom - top)
  const [columns, rows] = [Math.ceil((right - left) / size), Math.ceil((bottom - top) / size)]
  useEffect(() => {
    let frame = 0
    const draw = () => {
      const source = under.current?.querySelector<HTMLImageElement | HTMLVideoElement>('[data-under]')
      const context = canvas.current?.getContext('2d')
      if (source && context) {
        const scale = ('videoWidth' in source ? source.videoWidth : source.naturalWidth) / FRAME.width
        context.imageSmoothingQuality = 'high'
        const [width, height] = [columns * size * scale, rows * size * scale]
        if (scale > 0) context.drawImage(source, left * scale, top * scale, width, height, 0, 0, columns, rows)
      }
      frame = requestAnimationFrame(draw)
    }
    draw()
    return () => cancelAnimationFrame(frame)
  }, [under, left, top, columns, rows, size])
  const grid = { x: left / FRAME.width, y: top / FRAME.height }
  const whole = { ...grid, width: (columns * size) / FRAME.width, height: (rows * size) / FRAME.height }
  const clip = `inset(0 ${100 - (100 * (right - left)) / (columns * size)}% ${100 - (100 * (bottom - top)) / (rows * size)}% 0)`
  return (
    <canvas
      ref={canvas}
      className={styles.blocks}
      width={Math.max(1, columns)}
      height={Math.max(1, rows)}
      style={{ ...placed(whole), clipPath: clip }}
    />
  )
}

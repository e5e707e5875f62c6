'use client'

import { useRef, type CSSProperties, type RefObject } from 'react'
import { groundColour, placeInFrame, type Frame } from '@/core/picture/frame'
import type { Framing } from '@/core/lesson/framing'
import type { Picture } from '@/core/lesson/document'
import type { Area, Look } from '@/core/lesson/layers'
import { drawPointer } from '@/core/picture/pointers'
import { blockSize, pixelsOf } from '@/core/picture/raster'
import type { Side } from '@/core/picture/stack'
import { cardUrl, layerUrl, pageUrl } from '../api'
import { useLesson, useLessonState, useTimeline } from '../lesson/context'
import { usePlacing } from '../over/placing'
import { onDemand } from '../parts/onDemand'
import { naturalSize } from './naturalSize'
import { useUnder } from './useUnder'
import styles from './easel.module.css'

const RecordingPicture = onDemand(() => import('./RecordingPicture').then((part) => part.RecordingPicture))
const BlurredGround = onDemand(() => import('./BlurredGround').then((part) => part.BlurredGround))

/** A picture with what lies over it, as the finished video has it. */
export function SideView({ side, look, style }: { side: Side; look: Look; style?: CSSProperties }) {
  const { span, seen } = side
  const { picture, step, framing } = span
  const { shape } = useLesson().frame
  const { frame } = useTimeline()
  const isDark = useIsDark(picture)
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
    <div className={styles.side} style={{ background: groundColour(framing, isDark), ...style }}>
      <div className={styles.near} style={near} ref={under}>
        {framing.way === 'whole' && framing.ground === 'blurred' && <BlurredGround under={under} />}
        {picture.kind === 'recording' ? (
          <RecordingPicture key={span.start} span={span} style={standing(framing)} />
        ) : (
          <img
            src={picture.kind === 'card' ? cardUrl(picture.lines, shape) : pageUrl(picture.media, picture.page)}
            alt={step.title}
            style={standing(framing)}
            data-under=""
          />
        )}
        {layers
          .filter(({ layer }) => layer.kind !== 'words')
          .map((one) => (
            <OverPicture
              key={one.layer.id}
              {...one}
              look={look}
              under={{ picture: under, frame, framing, ground: groundColour(framing, isDark) }}
            />
          ))}
      </div>
      {layers
        .filter(({ layer }) => layer.kind === 'words')
        .map(({ layer, share }) => (
          <img
            key={layer.id}
            className={styles.over}
            src={layerUrl(layer, look, shape)}
            alt={layer.kind === 'words' ? layer.text : ''}
            style={{ opacity: share }}
          />
        ))}
    </div>
  )
}

/** How the picture itself stands in its box. */
const standing = ({ way, middle }: Framing): CSSProperties => ({
  objectFit: way === 'fill' ? 'cover' : 'contain',
  objectPosition: `${middle.x * 100}% ${middle.y * 100}%`,
})

function useIsDark(picture: Picture): boolean {
  return useLessonState(({ media }) => {
    if (picture.kind === 'card') return false
    const page = picture.kind === 'still' ? picture.page : 1
    return media.get(picture.media)?.darkPages.includes(page) ?? false
  })
}

/** The picture that something lies over, and how it stands in the frame. */
interface Under {
  picture: RefObject<HTMLDivElement | null>
  frame: Frame
  framing: Framing
  ground: string
}

type OverProps = Side['layers'][number] & { look: Look; under: Under }

/** What points and what covers: drawn here, since it moves. */
function OverPicture({ layer, area, share, look, under }: OverProps) {
  const { frame } = under
  const { shape } = useLesson().frame
  if (layer.kind === 'cover') {
    if (layer.way === 'blocks') return <Blocks area={area} {...under} />
    return <div className={styles.cover} style={{ ...placed(area), background: look.ground }} />
  }
  if (layer.kind === 'pointer' && layer.shape !== 'number') {
    const { path, stroke } = drawPointer({ ...layer, area }, frame, share)
    return (
      <svg className={styles.over} viewBox={`0 0 ${frame.width} ${frame.height}`} aria-hidden="true">
        <g fill="none" strokeLinecap="round" strokeLinejoin="round">
          <path d={path} stroke={look.ground} strokeWidth={stroke * 1.7} />
          <path d={path} stroke={look.accent} strokeWidth={stroke} />
        </g>
      </svg>
    )
  }
  return (
    <img className={styles.over} src={layerUrl({ ...layer, area }, look, shape)} alt="" style={{ opacity: share }} />
  )
}

const placed = ({ x, y, width, height }: Area): CSSProperties => ({
  left: `${x * 100}%`,
  top: `${y * 100}%`,
  width: `${width * 100}%`,
  height: `${height * 100}%`,
})

/** Blocks of the mean colour of what is under them. */
function Blocks({ area, picture, frame: of, framing, ground }: Under & { area: Area }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const [left, top, right, bottom] = pixelsOf(area, of)
  const size = blockSize(right - left, bottom - top)
  const [columns, rows] = [Math.ceil((right - left) / size), Math.ceil((bottom - top) / size)]
  useUnder(picture, () => {
    const source = picture.current?.querySelector<HTMLImageElement | HTMLVideoElement>('[data-under]')
    const context = canvas.current?.getContext('2d')
    if (!source || !context) return
    const natural = naturalSize(source)
    const place = placeInFrame(natural, of, framing)
    const scale = natural.width / place.width
    const [x, y] = [(left - place.x) * scale, (top - place.y) * scale]
    const [width, height] = [columns * size * scale, rows * size * scale]
    context.imageSmoothingQuality = 'high'
    context.fillStyle = ground
    context.fillRect(0, 0, columns, rows)
    if (natural.width > 0) context.drawImage(source, x, y, width, height, 0, 0, columns, rows)
  })
  const grid = { x: left / of.width, y: top / of.height }
  const whole = { ...grid, width: (columns * size) / of.width, height: (rows * size) / of.height }
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

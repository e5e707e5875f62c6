'use client'

import { CompressOutlined, ExpandOutlined } from '@/ui/parts/icons'
import { Tooltip } from 'antd'
import type { CSSProperties } from 'react'
import type { Picture as StepPicture } from '@/core/lesson/document'
import type { FrameShape } from '@/core/lesson/framing'
import type { Frame } from '@/core/picture/frame'
import { say } from '@/messages/say'
import { cardUrl, pageUrl, proxyUrl } from '../api'
import { useLesson, useLessonState, useTimeline } from '../lesson/context'
import { onDemand } from '../parts/onDemand'
import { Meters } from './Meters'
import { SideView } from './SideView'
import { useCaptionsShown } from './captionsShown'
import { Transport } from './Transport'
import { useStack } from './useStack'
import styles from './easel.module.css'

const Placing = onDemand(() => import('../over/Placing').then((part) => part.Placing))

/** What the viewer sees at this moment, the transport, and what is heard. */
export function Easel({ isLarge, onResize }: { isLarge: boolean; onResize: () => void }) {
  const isCaptioned = useCaptionsShown(({ isShown }) => isShown)
  return (
    <section className={styles.easel} data-large={isLarge || undefined} aria-label={say('easel.easel')}>
      <div className={styles.frame}>
        <Picture />
        <button className={styles.captions} aria-pressed={isCaptioned} onClick={useCaptionsShown.getState().toggle}>
          {say('easel.captions')}
        </button>
        <Tooltip title={isLarge ? say('easel.smallerPicture') : say('easel.largerPicture')}>
          <button
            className={styles.resize}
            aria-label={isLarge ? say('easel.smallerPicture') : say('easel.largerPicture')}
            onClick={onResize}
          >
            {isLarge ? <CompressOutlined /> : <ExpandOutlined />}
          </button>
        </Tooltip>
      </div>
      <Meters />
      <Transport />
    </section>
  )
}

function Picture() {
  const stack = useStack()
  const timeline = useTimeline()
  const look = useLessonState(({ history }) => history.lesson.look)
  const isPlacing = useLessonState(({ picked }) => picked?.kind === 'layer')
  const { shape } = useLesson().frame

  const [side, coming] = stack?.sides ?? []
  if (!stack || !side) return <div className={styles.picture} style={shapeOf(timeline.frame)} />
  const next = timeline.pictures[timeline.pictures.findIndex(({ start }) => start === side.span.start) + 1]
  const { between, veil } = stack
  const share = between?.share ?? 0
  const isPush = between?.kind === 'push'
  return (
    <div
      className={styles.picture}
      style={shapeOf(timeline.frame)}
      data-testid="easel"
      data-step={(share > 0.5 && coming ? coming : side).span.step.id}
    >
      <SideView
        key={side.span.start}
        side={side}
        look={look}
        style={isPush ? { transform: `translateX(${-share * 100}%)` } : undefined}
      />
      {coming && (
        <SideView
          key={coming.span.start}
          side={coming}
          look={look}
          style={isPush ? { transform: `translateX(${(1 - share) * 100}%)` } : { opacity: share }}
        />
      )}
      {veil > 0 && <div className={styles.side} style={{ background: look.ground, opacity: veil }} />}
      {isPlacing && <Placing />}
      {/* Fetched ahead, so that it is there when its moment comes. */}
      {next && next.picture.kind !== 'recording' && <img src={stillUrl(next.picture, shape)} alt="" hidden />}
      {next?.picture.kind === 'recording' && <video src={proxyUrl(next.picture.media)} preload="auto" muted hidden />}
    </div>
  )
}

/** As wide as there is room, but never so high that nothing else is seen. */
const shapeOf = ({ width, height }: Frame): CSSProperties => ({ '--shape': width / height }) as CSSProperties

function stillUrl(picture: StepPicture, shape: FrameShape): string | undefined {
  if (picture.kind === 'card') return cardUrl(picture.lines, shape)
  return picture.kind === 'still' ? pageUrl(picture.media, picture.page) : undefined
}

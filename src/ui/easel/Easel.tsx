'use client'

import { CompressOutlined, ExpandOutlined } from '@ant-design/icons'
import { Tooltip } from 'antd'
import { useEffect, useRef, useState } from 'react'
import type { Picture as StepPicture } from '@/core/lesson/document'
import { pictureAt } from '@/core/picture/layPictures'
import type { PictureSpan } from '@/core/lesson/timeline'
import { motionAt, speedOf } from '@/core/picture/motion'
import { cardUrl, pageUrl, proxyUrl } from '../api'
import { useDesk, useTimeline } from '../lesson/context'
import { Meters } from './Meters'
import { Transport } from './Transport'
import styles from './easel.module.css'

/** What the viewer sees at this moment, the transport, and what is heard. */
export function Easel({ isLarge, onResize }: { isLarge: boolean; onResize: () => void }) {
  return (
    <section className={styles.easel} data-large={isLarge || undefined} aria-label="Easel">
      <div className={styles.frame}>
        <Picture />
        <Tooltip title={isLarge ? 'Smaller picture' : 'Larger picture'}>
          <button
            className={styles.resize}
            aria-label={isLarge ? 'Smaller picture' : 'Larger picture'}
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

/** The picture that is seen now; looked up at every frame, rendered only when it changes. */
function usePictureNow(): PictureSpan | undefined {
  const { player } = useDesk()
  const timeline = useTimeline()
  const [now, setNow] = useState<PictureSpan | undefined>(() => pictureAt(timeline, player.position()))
  useEffect(() => {
    let frame = 0
    const look = () => {
      setNow(pictureAt(timeline, player.position()))
      frame = requestAnimationFrame(look)
    }
    look()
    return () => cancelAnimationFrame(frame)
  }, [player, timeline])
  return now
}

function Picture() {
  const now = usePictureNow()
  const timeline = useTimeline()
  const next = now && timeline.pictures[timeline.pictures.indexOf(now) + 1]
  if (!now) return <div className={styles.picture} />
  const { picture, step } = now
  return (
    <div className={styles.picture} data-testid="easel" data-step={step.id}>
      {picture.kind === 'recording' ? (
        <Recording key={step.id} span={now} />
      ) : (
        <img src={stillUrl(picture)} alt={step.title} />
      )}
      {/* Fetched ahead, so that it is there when its moment comes. */}
      {next && next.picture.kind !== 'recording' && <img src={stillUrl(next.picture)} alt="" hidden />}
      {next?.picture.kind === 'recording' && <video src={proxyUrl(next.picture.media)} preload="auto" muted hidden />}
    </div>
  )
}

function stillUrl(picture: StepPicture): string | undefined {
  if (picture.kind === 'card') return cardUrl(picture.lines)
  return picture.kind === 'still' ? pageUrl(picture.media, picture.page) : undefined
}

/** Half a frame: further apart than this, picture and sound are brought together again. */
const OFF = 1 / 60

/** A recording's picture, led by the sound's clock: at the speed its step gives it, or standing still. */
function Recording({ span: { step, picture, motions } }: { span: PictureSpan }) {
  const { player } = useDesk()
  const video = useRef<HTMLVideoElement>(null)
  useEffect(() => {
    let frame = 0
    const lead = () => {
      const element = video.current
      const motion = motionAt(motions, player.position())
      if (element && motion && element.readyState > 0) {
        const speed = speedOf(motion)
        const wanted = Math.min(motion.to, motion.from + Math.max(0, player.position() - motion.start) * speed)
        const moving = player.isPlaying() && speed > 0 && wanted < motion.to - 1 / 30
        const off = element.currentTime - wanted
        if (moving && element.paused) void element.play().catch(() => undefined)
        if (!moving && !element.paused) element.pause()
        // Small differences are made up by playing a little faster or slower, which can't be seen.
        if (Math.abs(off) > 0.15 * Math.max(1, speed) || (!moving && Math.abs(off) > OFF)) element.currentTime = wanted
        else if (moving) element.playbackRate = speed * (Math.abs(off) > OFF ? 1 - Math.sign(off) * 0.08 : 1)
      }
      frame = requestAnimationFrame(lead)
    }
    lead()
    return () => cancelAnimationFrame(frame)
  }, [player, motions])
  if (picture.kind !== 'recording') return null
  return <video ref={video} src={proxyUrl(picture.media)} muted playsInline preload="auto" aria-label={step.title} />
}

'use client'

import { useRef, type CSSProperties } from 'react'
import type { PictureSpan } from '@/core/lesson/timeline'
import { motionAt, speedOf } from '@/core/picture/motion'
import { proxyUrl } from '../api'
import { useDesk } from '../lesson/context'
import { useFrames } from '../player/useFrames'

/** Half a frame: further apart than this, picture and sound are brought together again. */
const OFF = 1 / 60

/** A recording's picture, led by the sound's clock: at the speed its step gives it, or standing still. */
export function RecordingPicture({
  span: { step, picture, motions },
  style,
}: {
  span: PictureSpan
  style: CSSProperties
}) {
  const { player } = useDesk()
  const video = useRef<HTMLVideoElement>(null)
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
  }
  useFrames(lead)
  if (picture.kind !== 'recording') return null
  return (
    <video
      data-under=""
      style={style}
      ref={video}
      src={proxyUrl(picture.media)}
      muted
      playsInline
      preload="auto"
      onLoadedMetadata={lead}
      aria-label={step.title}
    />
  )
}

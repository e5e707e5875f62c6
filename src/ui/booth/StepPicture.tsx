'use client'

import { useEffect, useRef } from 'react'
import type { Step } from '@/core/lesson/document'
import type { Seconds } from '@/core/units'
import { cardUrl, pageUrl, proxyUrl } from '../api'
import { useLesson } from '../lesson/context'
import styles from './booth.module.css'

/** The picture one speaks to. A recording plays along, silently and at its speed, while one records. */
export function StepPicture({ step, time }: { step: Step; time: Seconds | null }) {
  const { picture } = step
  const { shape } = useLesson().frame
  const video = useRef<HTMLVideoElement>(null)
  const plays = time !== null
  useEffect(() => {
    const element = video.current
    if (!element || picture.kind !== 'recording') return
    element.currentTime = picture.from
    element.playbackRate = picture.speed ?? 1
    if (plays) void element.play().catch(() => undefined)
    else element.pause()
  }, [plays, picture])
  return (
    <div className={styles.picture}>
      {picture.kind === 'recording' ? (
        <video ref={video} src={proxyUrl(picture.media)} muted playsInline preload="auto" aria-label={step.title} />
      ) : (
        <img
          src={picture.kind === 'card' ? cardUrl(picture.lines, shape) : pageUrl(picture.media, picture.page)}
          alt={step.title}
        />
      )}
    </div>
  )
}

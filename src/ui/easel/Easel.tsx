'use client'

import { useEffect, useRef, useState } from 'react'
import { stepAt, type StepSpan } from '@/core/lesson/layout'
import { cardUrl, pageUrl, proxyUrl } from '../api'
import { useDesk, useTimeline } from '../lesson/context'
import { Meters } from './Meters'
import { Transport } from './Transport'
import styles from './easel.module.css'

/** What the viewer sees at this moment, the transport, and what is heard. */
export function Easel() {
  return (
    <section className={styles.easel} aria-label="Easel">
      <Picture />
      <Transport />
      <Meters />
    </section>
  )
}

/** The step that is seen now; looked up at every frame, rendered only when it changes. */
function useStepNow(): StepSpan | undefined {
  const { player } = useDesk()
  const timeline = useTimeline()
  const [now, setNow] = useState<StepSpan | undefined>(() => stepAt(timeline, player.position()))
  useEffect(() => {
    let frame = 0
    const look = () => {
      setNow(stepAt(timeline, player.position()))
      frame = requestAnimationFrame(look)
    }
    look()
    return () => cancelAnimationFrame(frame)
  }, [player, timeline])
  return now
}

function Picture() {
  const now = useStepNow()
  const timeline = useTimeline()
  const next = now && timeline.steps[now.index + 1]
  if (!now) return <div className={styles.picture} />
  const { picture } = now.step
  return (
    <div className={styles.picture} data-testid="easel" data-step={now.step.id}>
      {picture.kind === 'recording' ? (
        <Recording key={now.step.id} span={now} />
      ) : (
        <img src={stillUrl(now)} alt={now.step.title} />
      )}
      {/* Fetched ahead, so that it is there when its moment comes. */}
      {next && next.step.picture.kind !== 'recording' && <img src={stillUrl(next)} alt="" hidden />}
      {next?.step.picture.kind === 'recording' && (
        <video src={proxyUrl(next.step.picture.media)} preload="auto" muted hidden />
      )}
    </div>
  )
}

function stillUrl({ step: { picture } }: StepSpan): string | undefined {
  if (picture.kind === 'card') return cardUrl(picture.lines)
  return picture.kind === 'still' ? pageUrl(picture.media, picture.page) : undefined
}

/** Half a frame: further apart than this, picture and sound are brought together again. */
const OFF = 1 / 60

/** A recording's picture, led by the sound's clock; held on its last picture where the step stays longer. */
function Recording({ span: { step, start } }: { span: StepSpan }) {
  const { player } = useDesk()
  const video = useRef<HTMLVideoElement>(null)
  const { picture } = step
  useEffect(() => {
    if (picture.kind !== 'recording') return
    let frame = 0
    const lead = () => {
      const element = video.current
      if (element && element.readyState > 0) {
        const wanted = Math.min(picture.to - 1 / 30, picture.from + Math.max(0, player.position() - start))
        const moving = player.isPlaying() && wanted < picture.to - 1 / 30
        const off = element.currentTime - wanted
        if (moving && element.paused) void element.play().catch(() => undefined)
        if (!moving && !element.paused) element.pause()
        // Small differences are made up by playing a little faster or slower, which can't be seen.
        if (Math.abs(off) > 0.15 || (!moving && Math.abs(off) > OFF)) element.currentTime = wanted
        else element.playbackRate = Math.abs(off) > OFF ? 1 - Math.sign(off) * 0.08 : 1
      }
      frame = requestAnimationFrame(lead)
    }
    lead()
    return () => cancelAnimationFrame(frame)
  }, [player, picture, start])
  if (picture.kind !== 'recording') return null
  return <video ref={video} src={proxyUrl(picture.media)} muted playsInline preload="auto" aria-label={step.title} />
}

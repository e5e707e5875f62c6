'use client'

import { useEffect, useState } from 'react'
import { stepAt } from '@/core/lesson/layout'
import { clock } from '../../format'
import { useDesk, useLessonState, useTimeline } from '../../lesson/context'
import styles from './strip.module.css'

/** The whole lesson at a glance, steps as high as they are long, with findings marked. */
export function LessonStrip() {
  const { store, player } = useDesk()
  const timeline = useTimeline()
  const findings = useLessonState(({ mix }) => mix?.findings)
  const [now, setNow] = useState<string | undefined>()
  useEffect(() => {
    const look = () => setNow(stepAt(timeline, player.position())?.step.id)
    look()
    const timer = setInterval(look, 200)
    return () => clearInterval(timer)
  }, [player, timeline])

  return (
    <nav className={styles.strip} aria-label="Whole lesson">
      {timeline.steps.map(({ step, index, start, end }) => {
        const found = findings?.filter((finding) => finding.stepId === step.id && finding.severity !== 'hint') ?? []
        const label = [`${index + 1}. ${step.title}, ${clock(end - start)}`, ...found.map(({ text }) => text)].join(
          '. ',
        )
        return (
          <button
            key={step.id}
            title={label}
            className={styles.step}
            style={{ flexGrow: Math.max(0.2, end - start) }}
            aria-label={label}
            aria-current={step.id === now || undefined}
            tabIndex={-1}
            onClick={() => {
              store.getState().select([step.id], { step: step.id, word: 0 })
              player.seek(start)
            }}
          >
            {found.length > 0 && <span className={styles.found} aria-hidden="true" />}
          </button>
        )
      })}
    </nav>
  )
}

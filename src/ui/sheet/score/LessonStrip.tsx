'use client'

import { memo, useCallback, useEffect, useMemo, useState } from 'react'
import type { Finding } from '@/core/check/finding'
import { stepAt } from '@/core/lesson/layout'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { clock } from '../../format'
import { useDesk, useFindings, useTimeline } from '../../lesson/context'
import { timelineOf } from '../../lesson/lessonStore'
import styles from './strip.module.css'

/** The whole lesson at a glance, steps as high as they are long, with findings marked. */
export function LessonStrip() {
  const { store, player } = useDesk()
  const timeline = useTimeline()
  const findings = useFindings()
  const [now, setNow] = useState<string | undefined>()
  useEffect(() => {
    const look = () => setNow(stepAt(timeline, player.position())?.step.id)
    look()
    const timer = setInterval(look, 200)
    return () => clearInterval(timer)
  }, [player, timeline])

  const go = useCallback(
    (step: string) => {
      const { select, history } = store.getState()
      select([step], { step, word: 0 })
      player.seek(timelineOf(history.lesson).steps.find((one) => one.step.id === step)?.start ?? 0)
    },
    [store, player],
  )
  const texts = useMemo(() => textsByStep(findings ?? []), [findings])
  return (
    <nav className={styles.strip} aria-label={say('score.wholeLesson')}>
      {timeline.steps.map(({ step, index, start, end }) => (
        <StripStep
          key={step.id}
          step={step.id}
          label={`${index + 1}. ${step.title}, ${clock(end - start)}`}
          length={Math.round((end - start) * 1000) / 1000}
          found={texts.get(step.id) ?? null}
          isNow={step.id === now}
          onGo={go}
        />
      ))}
    </nav>
  )
}

/** What was found in each step, as one text. */
function textsByStep(findings: readonly Finding[]): Map<string, string> {
  const texts = new Map<string, string>()
  for (const { stepId, severity, text } of findings)
    if (stepId && severity !== 'hint') texts.set(stepId, [texts.get(stepId), text].filter(Boolean).join('. '))
  return texts
}

interface StripStepProps {
  step: string
  label: string
  length: Seconds
  found: string | null
  isNow: boolean
  onGo: (step: string) => void
}

/** Made anew only where something of it has changed: a long lesson has hundreds. */
const StripStep = memo(function StripStep({ step, label, length, found, isNow, onGo }: StripStepProps) {
  const told = found ? `${label}. ${found}` : label
  return (
    <button
      title={told}
      className={styles.step}
      style={{ flexGrow: Math.max(0.2, length) }}
      aria-label={told}
      aria-current={isNow || undefined}
      tabIndex={-1}
      onClick={() => onGo(step)}
    >
      {found && <span className={styles.found} aria-hidden="true" />}
    </button>
  )
})

'use client'

import { useEffect, useRef } from 'react'
import { isOutdated, isStandIn, takesOf } from '@/core/lesson/takes'
import type { Lesson, Step } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { useLesson } from '../lesson/context'
import styles from './booth.module.css'

export function StepList({
  current,
  disabled,
  onChoose,
}: {
  current: string
  disabled: boolean
  onChoose: (index: number) => void
}) {
  const lesson = useLesson()
  const chosen = useRef<HTMLButtonElement>(null)
  useEffect(() => {
    const [button, list] = [chosen.current, chosen.current?.parentElement]
    if (!button || !list) return
    // The list alone: where it stands below the script, that is to stay in sight.
    const [above, below] = [button.offsetTop, button.offsetTop + button.offsetHeight - list.clientHeight]
    list.scrollTop = Math.min(above, Math.max(below, list.scrollTop))
  }, [current])
  return (
    <nav className={styles.steps} aria-label={say('booth.steps')}>
      {lesson.steps.map((step, i) => (
        <button
          key={step.id}
          ref={step.id === current ? chosen : undefined}
          aria-current={step.id === current ? 'step' : undefined}
          disabled={disabled && step.id !== current}
          onClick={() => onChoose(i)}
        >
          <b>{i + 1}</b>
          <span>{step.title}</span>
          <VoiceTag lesson={lesson} step={step} />
        </button>
      ))}
    </nav>
  )
}

/** What a step's voice is worth, in a word or two. */
export function VoiceTag({ lesson, step }: { lesson: Lesson; step: Step }) {
  if (step.passages.length === 0) return <small data-voice="none">{say('booth.noVoice')}</small>
  if (isOutdated(lesson, step)) return <small data-voice="outdated">{say('booth.scriptChanged')}</small>
  if (isStandIn(lesson, step)) return <small data-voice="stand-in">{say('booth.standIn')}</small>
  const takes = takesOf(lesson, step.id).filter(({ kind }) => kind !== 'read').length
  return <small data-voice="own">{takes > 1 ? say('booth.takesOf', { count: takes }) : say('booth.hasVoice')}</small>
}

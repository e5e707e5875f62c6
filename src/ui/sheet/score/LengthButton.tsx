'use client'

import { Popover } from 'antd'
import { useState } from 'react'
import type { Step } from '@/core/lesson/document'
import type { StepSpan } from '@/core/lesson/timeline'
import { say } from '@/messages/say'
import { clock } from '../../format'
import { LengthEditor } from '../step/LengthEditor'
import styles from '../step/length.module.css'

export function sayRule(step: Step): string {
  if (step.length.kind === 'fixed') return 'fixed'
  if (step.length.kind === 'until-next') return say('score.toTheNextWord')
  if (step.length.kind === 'reading') return say('score.timeToRead')
  if (step.passages.length > 0) return say('score.followsVoice')
  return step.picture.kind === 'recording' ? 'recording' : say('score.noVoiceYet')
}

/** How long a step stays, changed in place. */
export function LengthButton({ span }: { span: StepSpan }) {
  const [open, setOpen] = useState(false)
  const title = say('score.lengthOfStep', { number: span.index + 1 })
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      trigger="click"
      placement="left"
      content={
        <section role="dialog" aria-label={title}>
          <h2 className={styles.title}>{title}</h2>
          <LengthEditor span={span} />
        </section>
      }
      destroyOnHidden
    >
      <button className={styles.button} title={say('score.howLongTheStep')}>
        <span className="visually-hidden">{say('score.length')}</span>
        <b>{clock(span.end - span.start)}</b>
        <span>{sayRule(span.step)}</span>
      </button>
    </Popover>
  )
}

'use client'

import { Popover } from 'antd'
import { memo, useState } from 'react'
import type { Step } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { clock } from '../../format'
import { useLesson } from '../../lesson/context'
import { LengthEditor } from '../step/LengthEditor'
import type { RowSpan } from './rowContents'
import styles from '../step/length.module.css'

export function sayRule(step: Step): string {
  if (step.length.kind === 'fixed') return say('score.fixedLength')
  if (step.length.kind === 'until-next') return say('score.toTheNextWord')
  if (step.length.kind === 'reading') return say('score.timeToRead')
  if (step.passages.length > 0) return say('score.followsVoice')
  return step.picture.kind === 'recording' ? say('score.asRecording') : say('score.noVoiceYet')
}

/** How long a step stays, changed in place. */
export const LengthButton = memo(function LengthButton({ span }: { span: RowSpan }) {
  const [open, setOpen] = useState(false)
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      trigger="click"
      placement="left"
      content={<LengthDialog span={span} />}
      destroyOnHidden
    >
      <button className={styles.button} title={say('score.howLongTheStep')}>
        <span className="visually-hidden">{say('score.length')}</span>
        <b>{clock(span.end - span.start)}</b>
        <span>{sayRule(span.step)}</span>
      </button>
    </Popover>
  )
})

function LengthDialog({ span }: { span: RowSpan }) {
  const number = useLesson().steps.findIndex(({ id }) => id === span.step.id) + 1
  const title = say('score.lengthOfStep', { number })
  return (
    <section role="dialog" aria-label={title}>
      <h2 className={styles.title}>{title}</h2>
      <LengthEditor span={span} />
    </section>
  )
}

'use client'

import { Popover } from 'antd'
import { useState } from 'react'
import type { Step } from '@/core/lesson/document'
import type { StepSpan } from '@/core/lesson/timeline'
import { clock } from '../../format'
import { LengthEditor } from '../step/LengthEditor'
import styles from '../step/length.module.css'

export function sayRule(step: Step): string {
  if (step.length.kind === 'fixed') return 'fixed'
  if (step.length.kind === 'until-next') return 'to the next word'
  if (step.length.kind === 'reading') return 'time to read'
  if (step.passages.length > 0) return 'follows voice'
  return step.picture.kind === 'recording' ? 'recording' : 'no voice yet'
}

/** How long a step stays, changed in place. */
export function LengthButton({ span }: { span: StepSpan }) {
  const [open, setOpen] = useState(false)
  const title = `Length of step ${span.index + 1}`
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
      <button className={styles.button} title="How long the step stays">
        <span className="visually-hidden">Length</span>
        <b>{clock(span.end - span.start)}</b>
        <span>{sayRule(span.step)}</span>
      </button>
    </Popover>
  )
}

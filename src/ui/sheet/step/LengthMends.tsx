'use client'

import { Button } from 'antd'
import type { LengthRule } from '@/core/lesson/document'
import { stepLength } from '@/core/lesson/layout'
import type { StepSpan } from '@/core/lesson/timeline'
import { say } from '@/messages/say'
import { decimal } from '@/ui/format'
import { useLesson } from '../../lesson/context'
import { Notice } from '../../parts/Notice'
import styles from './length.module.css'

interface LengthMendsProps {
  span: Pick<StepSpan, 'step' | 'overrun'>
  onRule: (rule: LengthRule) => void
}

/** The words run past the picture: what can be done about it. */
export function LengthMends({ span, onRule }: LengthMendsProps) {
  const lengths = useLesson().lengths
  const { step, overrun } = span
  const needed = stepLength({ ...step, length: { kind: 'voice', atLeast: 0 } }, lengths)
  return (
    <Notice title={say('step.theWordsRunS', { overrun: decimal(overrun, 1) })}>
      <span className={styles.mends}>
        <Button size="small" onClick={() => onRule({ kind: 'voice', atLeast: 1 })}>
          {say('step.followTheVoice')}
        </Button>
        <Button size="small" onClick={() => onRule({ kind: 'fixed', length: Math.ceil(needed * 10) / 10 })}>
          {say('step.stayForS', { needed: decimal(needed, 1) })}
        </Button>
      </span>
    </Notice>
  )
}

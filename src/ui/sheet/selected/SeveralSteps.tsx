'use client'

import { Button } from 'antd'
import type { StepSpan } from '@/core/lesson/timeline'
import { say } from '@/messages/say'
import { clock } from '../../format'
import type { SheetActions } from '../actions/actions'
import styles from '../panel.module.css'

/** What can be done with several steps at once. */
export function SeveralSteps({ spans, actions }: { spans: readonly StepSpan[]; actions: SheetActions }) {
  return (
    <>
      <h2 className={styles.heading}>{say('selected.steps', { count: spans.length })}</h2>
      <p>
        {say('selected.togetherDragOneOf', {
          spans: clock(spans.reduce((sum, { start, end }) => sum + end - start, 0)),
        })}
      </p>
      <div className={styles.actions}>
        <Button size="small" onClick={actions.moveUp}>
          {say('selected.moveUp')}
        </Button>
        <Button size="small" onClick={actions.moveDown}>
          {say('selected.moveDown')}
        </Button>
        <Button size="small" onClick={actions.duplicate}>
          {say('selected.duplicate')}
        </Button>
        <Button size="small" onClick={actions.lengthVoice}>
          {say('selected.letThemFollowThe')}
        </Button>
        <Button size="small" danger onClick={actions.remove}>
          {say('selected.delete')}
        </Button>
      </div>
    </>
  )
}

'use client'

import { Button } from 'antd'
import type { StepSpan } from '@/core/lesson/timeline'
import { clock } from '../../format'
import type { SheetActions } from '../actions/actions'
import styles from '../panel.module.css'

/** What can be done with several steps at once. */
export function SeveralSteps({ spans, actions }: { spans: readonly StepSpan[]; actions: SheetActions }) {
  return (
    <>
      <h2 className={styles.heading}>{spans.length} steps</h2>
      <p>
        {clock(spans.reduce((sum, { start, end }) => sum + end - start, 0))} together. Drag one of them to move them
        all.
      </p>
      <div className={styles.actions}>
        <Button size="small" onClick={actions.moveUp}>
          Move up
        </Button>
        <Button size="small" onClick={actions.moveDown}>
          Move down
        </Button>
        <Button size="small" onClick={actions.duplicate}>
          Duplicate
        </Button>
        <Button size="small" onClick={actions.lengthVoice}>
          Let them follow the voice
        </Button>
        <Button size="small" danger onClick={actions.remove}>
          Delete
        </Button>
      </div>
    </>
  )
}

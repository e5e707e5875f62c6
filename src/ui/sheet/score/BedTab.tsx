'use client'

import { Button, Popover } from 'antd'
import type { BedCue } from '@/core/lesson/document'
import { useDesk, useTimeline } from '../../lesson/context'
import { BedFields } from '../music/BedSettings'
import styles from './row.module.css'

/** Where a piece of music starts: a click tells how far it plays, sets it, and takes it out. */
export function BedTab({ cue, title }: { cue: BedCue; title: string }) {
  const { store } = useDesk()
  const timeline = useTimeline()
  const span = timeline.beds.find((bed) => bed.cue.id === cue.id)
  const last = span && timeline.steps.findLast(({ start }) => start < span.end - 1e-6)
  const content = (
    <>
      <BedFields cue={cue} />
      <p>
        <Button size="small" onClick={() => store.getState().edit({ name: 'removeBed', cue: cue.id })}>
          Take it out of the lesson
        </Button>
      </p>
    </>
  )
  return (
    <Popover trigger="click" title={`${title}, up to step ${(last?.index ?? 0) + 1}`} content={content} destroyOnHidden>
      <button className={styles.cue} style={{ bottom: -6 }}>
        ♪ {title} starts
      </button>
    </Popover>
  )
}

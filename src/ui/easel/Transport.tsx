'use client'

import { CaretRightFilled, PauseOutlined } from '@ant-design/icons'
import { Button, Select, Tooltip } from 'antd'
import { useSyncExternalStore } from 'react'
import { stepAt } from '@/core/lesson/layout'
import type { Hearing } from '@/workers/protocol'
import { clock } from '../format'
import { useDesk, useTimeline } from '../lesson/context'
import { TimeNow } from '../player/TimeNow'
import { useHearing } from '../player/useHearing'
import styles from './easel.module.css'

const HEARING: { value: Hearing; label: string }[] = [
  { value: 'all', label: 'Hear all' },
  { value: 'voice', label: 'Voice only' },
  { value: 'bed', label: 'Music only' },
  { value: 'sounds', label: 'Effects only' },
  { value: 'recordings', label: 'Recordings only' },
]

export function Transport() {
  const { player } = useDesk()
  const timeline = useTimeline()
  const [hearing, hear] = useHearing()
  const playing = useSyncExternalStore(player.subscribe, player.isPlaying, () => false)
  const playStep = () => {
    const span = stepAt(timeline, player.position())
    if (span) void player.play(span.start, span.end)
  }
  return (
    <div className={styles.transport}>
      <Tooltip title={playing ? 'Pause (Space)' : 'Play (Space)'}>
        <button
          className={styles.play}
          aria-label={playing ? 'Pause' : 'Play'}
          onClick={() => (playing ? player.pause() : void player.playOn())}
        >
          {playing ? <PauseOutlined /> : <CaretRightFilled />}
        </button>
      </Tooltip>
      <TimeNow className={styles.time} />
      <span className={styles.of}>of {clock(timeline.length, false)}</span>
      <span className={styles.gap} />
      <Button size="small" onClick={playStep} disabled={timeline.steps.length === 0}>
        This step
      </Button>
      <Select
        size="small"
        aria-label="What is heard"
        value={hearing}
        options={HEARING}
        style={{ width: 108 }}
        onChange={hear}
      />
    </div>
  )
}

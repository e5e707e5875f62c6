'use client'

import { PlayButton } from '../parts/PlayButton'
import { Button, Select, Tooltip } from 'antd'
import { useSyncExternalStore } from 'react'
import { stepAt } from '@/core/lesson/layout'
import type { Hearing } from '@/workers/protocol'
import { say } from '@/messages/say'
import { clock } from '../format'
import { useDesk, useTimeline } from '../lesson/context'
import { TimeNow } from '../player/TimeNow'
import { useHearing } from '../player/useHearing'
import styles from './easel.module.css'

const hearings = (): { value: Hearing; label: string }[] => [
  { value: 'all', label: say('easel.hearAll') },
  { value: 'voice', label: say('easel.voiceOnly') },
  { value: 'bed', label: say('easel.musicOnly') },
  { value: 'sounds', label: say('easel.effectsOnly') },
  { value: 'recordings', label: say('easel.recordingsOnly') },
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
      <Tooltip title={playing ? say('easel.pauseSpace') : say('easel.playSpace')}>
        <PlayButton
          playing={playing}
          label={playing ? say('easel.pause') : say('easel.play')}
          onPress={() => (playing ? player.pause() : void player.playOn())}
        />
      </Tooltip>
      <TimeNow className={styles.time} />
      <span className={styles.of}>{say('easel.of', { count: clock(timeline.length, false) })}</span>
      <span className={styles.gap} />
      <Button size="small" onClick={playStep} disabled={timeline.steps.length === 0}>
        {say('easel.thisStep')}
      </Button>
      <Select
        size="small"
        aria-label={say('easel.whatIsHeard')}
        value={hearing}
        options={hearings()}
        style={{ minWidth: 92, flex: '0 1 auto' }}
        onChange={hear}
      />
    </div>
  )
}

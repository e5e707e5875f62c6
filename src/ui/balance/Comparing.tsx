'use client'

import { CaretRightFilled, PauseOutlined } from '@ant-design/icons'
import { Segmented } from 'antd'
import { useEffect, useSyncExternalStore } from 'react'
import { CORRIDOR } from '@/core/mix/balanceSheet'
import type { Hearing } from '@/workers/protocol'
import { clock, percent, signed } from '../format'
import { useDesk, useLesson, useLessonState, useTimeline } from '../lesson/context'
import type { Compared } from '../lesson/lessonStore'
import { TimeNow } from '../player/TimeNow'
import { useHearing } from '../player/useHearing'
import styles from './balance.module.css'

type Way = Compared | 'lesson'

/** Playing, and comparing ways to mix the bed at the same loudness, without a gap. */
export function Comparing() {
  const { store, player } = useDesk()
  const timeline = useTimeline()
  const { targets } = useLesson()
  const compared = useLessonState((state) => state.compared)
  const shares = useLessonState(({ mix }) => mix?.shares)
  const playing = useSyncExternalStore(player.subscribe, player.isPlaying, () => false)
  const [hearing, hear] = useHearing()
  // What is compared here is not what the lesson is: it ends with this view.
  useEffect(() => () => store.setState({ compared: null }), [store])
  return (
    <div className={styles.top}>
      <button
        className={styles.play}
        aria-label={playing ? 'Pause' : 'Play'}
        onClick={() => (playing ? player.pause() : void player.playOn())}
      >
        {playing ? <PauseOutlined /> : <CaretRightFilled />}
      </button>
      <TimeNow className={styles.time} /> <span className={styles.note}>of {clock(timeline.length, false)}</span>
      <Segmented<Way>
        aria-label="How the music is mixed"
        value={compared ?? 'lesson'}
        options={[
          { value: 'lesson', label: 'As set' },
          { value: 'plain', label: 'One level' },
          { value: 'ridden', label: 'Ridden' },
          { value: 'pocket', label: 'Ridden + pocket' },
        ]}
        onChange={(way) => store.setState({ compared: way === 'lesson' ? null : way })}
      />
      <Segmented<Hearing>
        aria-label="What is heard"
        value={hearing}
        options={[
          { value: 'all', label: 'All' },
          { value: 'voice', label: 'Voice' },
          { value: 'bed', label: 'Music' },
        ]}
        onChange={hear}
      />
      <span className={styles.gap} />
      {shares && shares.within !== null && (
        <span className={styles.held}>
          <b data-testid="within">{percent(shares.within)}</b> of spoken time within {targets.clearance} ± {CORRIDOR} LU
          <small>
            voice covered {percent(shares.masked ?? 0)} · music not heard {percent(shares.lost ?? 0)} ·{' '}
            {signed(targets.loudness, 0)} LUFS in all
          </small>
        </span>
      )}
    </div>
  )
}

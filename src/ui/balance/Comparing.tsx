'use client'

import { PlayButton } from '../parts/PlayButton'
import { Segmented } from 'antd'
import { useEffect, useSyncExternalStore } from 'react'
import { CORRIDOR } from '@/core/mix/balanceSheet'
import type { Hearing } from '@/workers/protocol'
import { say } from '@/messages/say'
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
      <PlayButton
        playing={playing}
        label={playing ? say('balance.pause') : say('balance.play')}
        onPress={() => (playing ? player.pause() : void player.playOn())}
      />
      <TimeNow className={styles.time} />{' '}
      <span className={styles.note}>{say('balance.of', { count: clock(timeline.length, false) })}</span>
      <Segmented<Way>
        aria-label={say('balance.howTheMusicIs')}
        value={compared ?? 'lesson'}
        options={[
          { value: 'lesson', label: say('balance.asSet') },
          { value: 'plain', label: say('balance.oneLevel') },
          { value: 'ridden', label: say('balance.ridden') },
          { value: 'pocket', label: say('balance.riddenPocket') },
        ]}
        onChange={(way) => store.setState({ compared: way === 'lesson' ? null : way })}
      />
      <Segmented<Hearing>
        aria-label={say('balance.whatIsHeard')}
        value={hearing}
        options={[
          { value: 'all', label: say('balance.all') },
          { value: 'voice', label: say('balance.voice') },
          { value: 'bed', label: say('balance.music') },
        ]}
        onChange={hear}
      />
      <span className={styles.gap} />
      {shares && shares.within !== null && (
        <span className={styles.held}>
          {say.rich('balance.within', {
            share: percent(shares.within),
            clearance: targets.clearance,
            corridor: CORRIDOR,
            b: (share) => <b data-testid="within">{share}</b>,
          })}
          <small>
            {say('balance.voiceCoveredMusicNot', {
              masked: percent(shares.masked ?? 0),
              lost: percent(shares.lost ?? 0),
              loudness: signed(targets.loudness, 0),
            })}
          </small>
        </span>
      )}
    </div>
  )
}

'use client'

import { useState } from 'react'
import { say } from '@/messages/say'
import { useLessonState, useTimeline } from '../lesson/context'
import { BedControls } from './BedControls'
import { Comparing } from './Comparing'
import { LevelChart, type Shown } from './LevelChart'
import { NudgeStrip } from './NudgeStrip'
import { SpectrumChart } from './SpectrumChart'
import { useBalance } from './useBalance'
import { Worst } from './Worst'
import styles from './balance.module.css'

/** The whole lesson's balance of voice and music: seen, set, compared and heard. */
export function Balance() {
  const mix = useLessonState((state) => state.mix)
  const balance = useBalance()
  const timeline = useTimeline()
  const [zoomed, setZoomed] = useState<Shown | null>(null)
  const shown = zoomed ?? { from: 0, to: Math.max(1, timeline.length) }
  return (
    <div className={styles.balance}>
      <Comparing />
      <section className={styles.card} aria-label={say('balance.loudnessOverTheLesson')}>
        {mix && balance ? (
          <>
            <LevelChart mix={mix} balance={balance} onShown={setZoomed} />
            <NudgeStrip shown={shown} />
          </>
        ) : (
          <p className={styles.note}>{say('balance.measuring')}</p>
        )}
      </section>
      {balance && (
        <div className={styles.below}>
          <BedControls />
          <SpectrumChart balance={balance} />
          <Worst balance={balance} />
        </div>
      )}
    </div>
  )
}

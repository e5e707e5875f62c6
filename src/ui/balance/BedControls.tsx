'use client'

import { Select, Slider, Switch } from 'antd'
import { USUAL_POCKET } from '@/core/lesson/newParts'
import { useDesk, useLesson } from '../lesson/context'
import { Explained } from '../parts/Explained'
import { WCAG_CLEARANCE } from '@/core/mix/nearer'
import { TargetSlider } from '../lesson/TargetSlider'
import styles from './balance.module.css'

/** Clearances named by what they are for. */
const USES = [
  { value: 10, label: 'Lively: music you notice' },
  { value: 16, label: 'Course video: noticeable, not pronounced' },
  { value: WCAG_CLEARANCE, label: 'Easy to follow: WCAG 2.2, 1.4.7' },
  { value: 26, label: 'Barely there: noisy places, hard words' },
]

/** What decides the bed's level; every change is heard at once. */
export function BedControls() {
  const { store } = useDesk()
  const { targets, pocket } = useLesson()
  const { edit } = store.getState()
  return (
    <section className={styles.card} aria-label="Music under the voice">
      <h2>Music under the voice</h2>
      <Select
        size="small"
        aria-label="What it is for"
        style={{ width: '100%', marginBottom: 8 }}
        value={USES.some(({ value }) => value === targets.clearance) ? targets.clearance : null}
        placeholder="A clearance of your own"
        options={USES}
        onChange={(value) => value !== null && edit({ name: 'setTarget', target: 'clearance', value })}
      />
      <TargetSlider target="clearance" />
      <TargetSlider target="swell" />
      <TargetSlider target="pauseFrom" />
      <TargetSlider target="slope" />
      <div className={styles.switch}>
        <Explained term="pocket">Voice pocket</Explained>
        <Switch
          size="small"
          aria-label="Voice pocket"
          checked={pocket.on}
          onChange={(on) => edit({ name: 'setPocket', pocket: { ...pocket, on } })}
        />
      </div>
      {pocket.on && (
        <>
          <div className={styles.switch}>
            <span>As deep as needed</span>
            <Switch
              size="small"
              aria-label="As deep as needed"
              checked={pocket.depth === null}
              onChange={(needed) =>
                edit({ name: 'setPocket', pocket: { ...pocket, depth: needed ? null : USUAL_POCKET } })
              }
            />
          </div>
          {pocket.depth !== null && (
            <>
              <div className={styles.switch}>
                <span>Depth of the pocket</span>
                <b>{pocket.depth} dB</b>
              </div>
              <Slider
                ariaLabelForHandle="Depth of the pocket"
                min={1}
                max={15}
                key={pocket.depth}
                defaultValue={pocket.depth}
                tooltip={{ formatter: (value) => `${value} dB` }}
                onChangeComplete={(depth) => edit({ name: 'setPocket', pocket: { ...pocket, depth } })}
              />
            </>
          )}
        </>
      )}
    </section>
  )
}

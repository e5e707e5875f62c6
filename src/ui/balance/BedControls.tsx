'use client'

import { Select, Switch } from 'antd'
import { USUAL_POCKET } from '@/core/lesson/newParts'
import { useDesk, useLesson } from '../lesson/context'
import { MoveSlider } from '../parts/MoveSlider'
import { Explained } from '../parts/Explained'
import { WCAG_CLEARANCE } from '@/core/mix/nearer'
import { percent } from '../format'
import { say } from '@/messages/say'
import { TargetSlider } from '../lesson/TargetSlider'
import { useStrokesWorth } from './useBalance'
import styles from './balance.module.css'

/** Clearances named by what they are for. */
const uses = () => [
  { value: 10, label: say('balance.livelyMusicYouNotice') },
  { value: 16, label: say('balance.courseVideoNoticeableNot') },
  { value: WCAG_CLEARANCE, label: say('balance.easyToFollowWcag') },
  { value: 26, label: say('balance.barelyThereNoisyPlaces') },
]

/** Evening strokes is offered where it brings so much of what is said nearer to its clearance. */
const LEAST_WORTH = 0.02

/** What decides the bed's level; every change is heard at once. */
export function BedControls() {
  const { store } = useDesk()
  const { targets, pocket, evenStrokes } = useLesson()
  const strokes = useStrokesWorth()
  const isWorthwhile = strokes !== null && strokes.even - strokes.now >= LEAST_WORTH
  const { edit } = store.getState()
  return (
    <section className={styles.card} aria-label={say('balance.musicUnderTheVoice')}>
      <h2>{say('balance.musicUnderTheVoice')}</h2>
      <Select
        size="small"
        aria-label={say('balance.whatItIsFor')}
        style={{ width: '100%', marginBottom: 8 }}
        value={uses().some(({ value }) => value === targets.clearance) ? targets.clearance : null}
        placeholder={say('balance.aClearanceOfYour')}
        options={uses()}
        onChange={(value) => value !== null && edit({ name: 'setTarget', target: 'clearance', value })}
      />
      <TargetSlider target="clearance" />
      <TargetSlider target="swell" />
      <TargetSlider target="pauseFrom" />
      <TargetSlider target="slope" />
      <div className={styles.switch}>
        <Explained term="pocket">{say('balance.voicePocket')}</Explained>
        <Switch
          size="small"
          aria-label={say('balance.voicePocket')}
          checked={pocket.on}
          onChange={(on) => edit({ name: 'setPocket', pocket: { ...pocket, on } })}
        />
      </div>
      {pocket.on && (
        <>
          <div className={styles.switch}>
            <span>{say('balance.asDeepAsNeeded')}</span>
            <Switch
              size="small"
              aria-label={say('balance.asDeepAsNeeded')}
              checked={pocket.depth === null}
              onChange={(needed) =>
                edit({ name: 'setPocket', pocket: { ...pocket, depth: needed ? null : USUAL_POCKET } })
              }
            />
          </div>
          {pocket.depth !== null && (
            <>
              <div className={styles.switch}>
                <span>{say('balance.depthOfThePocket')}</span>
                <b>{say('balance.db', { depth: pocket.depth })}</b>
              </div>
              <MoveSlider
                ariaLabelForHandle={say('balance.depthOfThePocket')}
                min={1}
                max={15}
                value={pocket.depth}
                tooltip={{ open: false }}
                onMove={(depth, isFirst) =>
                  store.getState().continueEdit({ name: 'setPocket', pocket: { ...pocket, depth } }, isFirst)
                }
              />
            </>
          )}
        </>
      )}
      {(evenStrokes || isWorthwhile) && (
        <div className={styles.switch}>
          <Explained term="strokes">{say('balance.evenStrokes')}</Explained>
          <Switch
            size="small"
            aria-label={say('balance.evenStrokes')}
            checked={evenStrokes}
            onChange={(on) => edit({ name: 'setEvenStrokes', on })}
          />
        </div>
      )}
      {isWorthwhile && (
        <p className={styles.note}>
          {say('balance.strokesStandOut', { now: percent(strokes.now), even: percent(strokes.even) })}
        </p>
      )}
    </section>
  )
}

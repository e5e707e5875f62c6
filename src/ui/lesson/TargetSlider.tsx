'use client'

import { useStore } from 'zustand'
import type { MixTargets } from '@/core/lesson/document'
import { WCAG_CLEARANCE } from '@/core/mix/nearer'
import { say } from '@/messages/say'
import { decimal, signed } from '../format'
import { MoveSlider } from '../parts/MoveSlider'
import { Explained } from '../parts/Explained'
import { plainClearance, type Term } from '../parts/terms'
import { useDesk } from './context'
import styles from './slider.module.css'

type SliderTarget = Exclude<keyof MixTargets, 'truePeak'>

interface TargetView {
  label: `lesson.${SliderTarget}`
  min: number
  max: number
  step: number
  show(value: number): string
  marks?: Record<number, string>
  term?: Term
  /** The value in plain words. */
  plain?(value: number): string
}

const VIEWS = {
  clearance: {
    label: 'lesson.clearance',
    min: 6,
    max: 30,
    step: 1,
    show: (value) => say('lesson.lu', { value: String(value) }),
    plain: plainClearance,
    marks: { [WCAG_CLEARANCE]: ' ' },
    term: 'clearance',
  },
  swell: {
    label: 'lesson.swell',
    min: 0,
    max: 24,
    step: 1,
    show: (value) => say('lesson.luUnder', { value: String(value) }),
    term: 'swell',
  },
  pauseFrom: {
    label: 'lesson.pauseFrom',
    min: 1.5,
    max: 10,
    step: 0.5,
    show: (value) => say('lesson.s', { value: String(value) }),
    term: 'pause',
  },
  slope: {
    label: 'lesson.slope',
    min: 4,
    max: 20,
    step: 0.1,
    show: (value) => say('lesson.dbASecond', { value: decimal(value, 0) }),
    term: 'slope',
  },
  recordingsUnder: {
    label: 'lesson.recordingsUnder',
    min: 0,
    max: 30,
    step: 1,
    show: (value) => (value === 0 ? say('lesson.asTheyAre') : say('lesson.lu', { value: String(value) })),
  },
  effectsUnder: {
    label: 'lesson.effectsUnder',
    min: 0,
    max: 30,
    step: 1,
    show: (value) => (value === 0 ? say('lesson.asTheyAre') : say('lesson.lu', { value: String(value) })),
  },
  loudness: {
    label: 'lesson.loudness',
    min: -24,
    max: -12,
    step: 1,
    show: (value) => say('lesson.lufs', { value: signed(value, 0) }),
    term: 'lufs',
  },
} satisfies Record<SliderTarget, TargetView>

/** One of the lesson's targets. It is heard while it is being moved. */
export function TargetSlider({ target }: { target: SliderTarget }) {
  const { store } = useDesk()
  // Not a frame late, as what stands around it: the next key goes on from the last one.
  const value = useStore(store, ({ history }) => history.lesson.targets[target])
  const { label, min, max, step, show, marks, term, plain }: TargetView = VIEWS[target]
  const name = say(label)
  return (
    <div className={styles.slider}>
      <div className={styles.head}>
        {term ? <Explained term={term}>{name}</Explained> : <span>{name}</span>}
        <b>{show(value)}</b>
      </div>
      {plain && <small className={styles.plain}>{plain(value)}</small>}
      <MoveSlider
        ariaLabelForHandle={name}
        value={value}
        min={min}
        max={max}
        step={step}
        marks={marks}
        tooltip={{ open: false }}
        style={{ margin: '10px 8px 12px' }}
        onMove={(next, isFirst) => store.getState().continueEdit({ name: 'setTarget', target, value: next }, isFirst)}
      />
    </div>
  )
}

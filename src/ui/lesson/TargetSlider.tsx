'use client'

import { Slider } from 'antd'
import { useRef } from 'react'
import { useStore } from 'zustand'
import type { MixTargets } from '@/core/lesson/document'
import { WCAG_CLEARANCE } from '@/core/mix/nearer'
import { Explained } from '../parts/Explained'
import { plainClearance, type Term } from '../parts/terms'
import { useDesk } from './context'
import styles from './slider.module.css'

interface TargetView {
  label: string
  min: number
  max: number
  step: number
  say(value: number): string
  marks?: Record<number, string>
  term?: Term
  /** The value in plain words. */
  plain?(value: number): string
}

const VIEWS = {
  clearance: {
    label: 'Clearance under the voice',
    min: 6,
    max: 30,
    step: 1,
    say: (value) => `${value} LU`,
    plain: plainClearance,
    marks: { [WCAG_CLEARANCE]: ' ' },
    term: 'clearance',
  },
  swell: { label: 'Where nobody speaks', min: 0, max: 24, step: 1, say: (value) => `${value} LU under`, term: 'swell' },
  pauseFrom: {
    label: 'Counts as a pause from',
    min: 1.5,
    max: 10,
    step: 0.5,
    say: (value) => `${value} s`,
    term: 'pause',
  },
  slope: {
    label: 'How quickly it moves',
    min: 4,
    max: 20,
    step: 0.1,
    say: (value) => `${value.toFixed(0)} dB a second`,
    term: 'slope',
  },
  recordingsUnder: {
    label: 'Recordings under the voice',
    min: 0,
    max: 30,
    step: 1,
    say: (value) => (value === 0 ? 'as they are' : `${value} LU`),
  },
  effectsUnder: {
    label: 'Effects under the voice',
    min: 0,
    max: 30,
    step: 1,
    say: (value) => (value === 0 ? 'as they are' : `${value} LU`),
  },
  loudness: {
    label: 'Loudness of the lesson',
    min: -24,
    max: -12,
    step: 1,
    say: (value) => `${value} LUFS`,
    term: 'lufs',
  },
} satisfies Partial<Record<keyof MixTargets, TargetView>>

/** One of the lesson's targets. It is heard while it is being moved; a whole drag is one step of undo. */
export function TargetSlider({ target }: { target: keyof typeof VIEWS }) {
  const { store } = useDesk()
  // Not a frame late, as what stands around it: the next key goes on from the last one.
  const value = useStore(store, ({ history }) => history.lesson.targets[target])
  const isNew = useRef(true)
  const { label, min, max, step, say, marks, term, plain }: TargetView = VIEWS[target]
  return (
    <div className={styles.slider}>
      <div className={styles.head}>
        {term ? <Explained term={term}>{label}</Explained> : <span>{label}</span>}
        <b>{say(value)}</b>
      </div>
      {plain && <small className={styles.plain}>{plain(value)}</small>}
      <Slider
        ariaLabelForHandle={label}
        value={value}
        min={min}
        max={max}
        step={step}
        marks={marks}
        tooltip={{ open: false }}
        style={{ margin: '10px 8px 12px' }}
        onChange={(next) => {
          store.getState().drag(target, next, isNew.current)
          isNew.current = false
        }}
        onChangeComplete={() => (isNew.current = true)}
      />
    </div>
  )
}

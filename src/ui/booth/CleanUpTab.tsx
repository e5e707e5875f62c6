'use client'

import { Button, Segmented, Slider, Switch } from 'antd'
import { useMemo, useState } from 'react'
import type { Step, Take } from '@/core/lesson/document'
import { isInUse } from '@/core/lesson/takes'
import {
  CLEAN_UP_PARTS,
  isActive,
  NO_CLEAN_UP,
  USUAL_CLEAN_UP,
  type CleanUp,
  type CleanUpPart,
} from '@/core/narration/cleanUp/settings'
import { adviseCleanUp, type CleanUpAdvice } from '@/core/narration/cleanUp/advice'
import { signed } from '../format'
import { useDesk, useLesson, useLessonState } from '../lesson/context'
import { cleaningState } from '../lesson/useCleaning'
import styles from './booth.module.css'

interface PartView {
  part: CleanUpPart
  label: string
  help: string
  /** What was measured, in words. */
  say?: (measured: number) => string
}

const under = (measured: number) => `${measured.toFixed(0)} dB under your voice`

/** By what an author would say is wrong. */
const GROUPS: { name: string; parts: PartView[] }[] = [
  {
    name: 'My room',
    parts: [
      {
        part: 'noise',
        label: 'Room noise',
        help: 'Takes fans, traffic and hiss out from under the words.',
        say: under,
      },
      {
        part: 'hiss',
        label: 'Steady hiss and hum',
        help: 'By the room you measured, or by quiet places.',
        say: under,
      },
      { part: 'rumble', label: 'Rumble', help: 'Everything below a voice: steps, lorries, wind.', say: under },
    ],
  },
  {
    name: 'My microphone',
    parts: [
      {
        part: 'plosives',
        label: 'Puffs on p and b',
        help: 'Where breath has hit the microphone.',
        say: (measured) => (measured < 0.5 ? 'none found' : `${measured.toFixed(0)} a minute`),
      },
      {
        part: 'sibilance',
        label: 'Sharp s',
        help: 'Softens s and sh where they stand out.',
        say: (measured) => `${signed(measured, 0)} dB beside the rest`,
      },
      { part: 'clicks', label: 'Clicks', help: 'Only what clearly stands out.' },
      {
        part: 'clipping',
        label: 'Clipped peaks',
        help: 'Rounds peaks that were cut off.',
        say: (measured) => (measured === 0 ? 'none found' : `in ${measured} places`),
      },
    ],
  },
  {
    name: 'My level',
    parts: [
      {
        part: 'levelling',
        label: 'Even level',
        help: 'Brings loud and soft sentences nearer to each other.',
        say: (measured) => `sentences differ by ${measured.toFixed(0)} LU`,
      },
      { part: 'tone', label: 'Tone', help: 'Body is warmth, clearness is consonants, air is brightness.' },
    ],
  },
]

export function CleanUpTab({ step, takes }: { step: Step; takes: readonly Take[] }) {
  const { store } = useDesk()
  const lesson = useLesson()
  const [scope, setScope] = useState<'lesson' | 'take'>('lesson')
  const used = takes.find((take) => isInUse(step, take))
  const own = used?.cleanUp ?? null
  const cleanUp = scope === 'take' ? (own ?? lesson.cleanUp) : lesson.cleanUp
  const media = scope === 'take' ? (used?.media ?? null) : null
  const analysis = useLessonState(({ analyses }) => (used ? analyses.get(used.media) : undefined))
  const hum = useLessonState(({ media }) => (used && media.get(used.media)?.hum) ?? null)
  const advice = useMemo(() => analysis && adviseCleanUp(analysis, hum), [analysis, hum])
  const set = (next: CleanUp | null) => store.getState().edit({ name: 'setCleanUp', media, cleanUp: next })
  const change = (part: CleanUpPart, values: object) => set({ ...cleanUp, [part]: { ...cleanUp[part], ...values } })
  return (
    <div className={styles.cleanUp}>
      <Segmented
        block
        aria-label="What is cleaned"
        value={scope}
        onChange={setScope}
        options={[
          { value: 'lesson', label: 'All takes of the lesson' },
          { value: 'take', label: 'The take in use here', disabled: !used },
        ]}
      />
      <p className={styles.hint}>
        {scope === 'take' && !own && 'As the lesson’s voice, until something is changed here. '}
        The takes themselves never change.
      </p>
      <div className={styles.actions}>
        <Button size="small" onClick={() => set(USUAL_CLEAN_UP)}>
          Usual clean-up
        </Button>
        {advice && (
          <Button size="small" onClick={() => set(advised(cleanUp, advice))}>
            As advised
          </Button>
        )}
        <Button
          size="small"
          disabled={scope === 'take' ? !own : !isActive(cleanUp)}
          onClick={() => set(scope === 'take' ? null : NO_CLEAN_UP)}
        >
          Reset
        </Button>
        <BeforeAfter />
        <Progress media={used?.media} />
      </div>
      {GROUPS.map(({ name, parts }) => (
        <section key={name} aria-label={name}>
          <h3>{name}</h3>
          {parts.map(({ part, label, help, say }) => (
            <div key={part}>
              <label>
                <Switch
                  size="small"
                  aria-label={label}
                  checked={cleanUp[part].on}
                  onChange={(on) => change(part, { on })}
                />
                <b>{label}</b>
                <span>{help}</span>
              </label>
              {advice && say && advice[part].measured !== null && (
                <p className={styles.measured}>
                  Here: {say(advice[part].measured)}
                  {part === 'hiss' && hum && `, and hum at ${hum.at.toFixed(0)} Hz`}
                  {advice[part].advised && <b> · advised</b>}
                </p>
              )}
              {cleanUp[part].on && (
                <Amounts part={part} cleanUp={cleanUp} onChange={(values) => change(part, values)} />
              )}
            </div>
          ))}
        </section>
      ))}
    </div>
  )
}

/** On where something was found, off where nothing was; what only an ear can tell stays as it is. */
const advised = (cleanUp: CleanUp, advice: Record<CleanUpPart, CleanUpAdvice>): CleanUp =>
  Object.fromEntries(
    CLEAN_UP_PARTS.map((part) => {
      const { measured, advised: on } = advice[part]
      return [part, measured === null ? cleanUp[part] : { ...cleanUp[part], on }]
    }),
  ) as CleanUp

/** Heard as recorded or as cleaned, while it plays. */
function BeforeAfter() {
  const { store } = useDesk()
  const raw = useLessonState((state) => state.hearsRaw)
  return (
    <Segmented
      size="small"
      aria-label="What is heard"
      value={raw ? 'before' : 'after'}
      options={[
        { value: 'before', label: 'Hear before' },
        { value: 'after', label: 'Hear after' },
      ]}
      onChange={(value) => store.setState({ hearsRaw: value === 'before' })}
    />
  )
}

function Progress({ media }: { media: string | undefined }) {
  const cleaning = useLessonState((state) => (media ? cleaningState(state, media) : null))
  if (!cleaning) return <small data-testid="cleaning">nothing is changed</small>
  if (cleaning.error)
    return <small className={styles.fault}>{cleaning.error} Try it again at the top of the page.</small>
  return (
    <small data-testid="cleaning">
      {cleaning.media ? 'cleaned' : `cleaning, ${Math.round(cleaning.progress * 100)} %`}
    </small>
  )
}

interface Amount {
  key: string
  label: string
  min: number
  max: number
  step: number
  say: (value: number) => string
}
const decibels = (value: number) => `${signed(value, 0)} dB`
const share = (value: number) => `${Math.round(value * 100)} %`
const AMOUNTS: Partial<Record<CleanUpPart, Amount[]>> = {
  noise: [{ key: 'amount', label: 'How much', min: 0, max: 1, step: 0.05, say: share }],
  hiss: [{ key: 'amount', label: 'At most', min: 3, max: 30, step: 1, say: decibels }],
  rumble: [{ key: 'below', label: 'Below', min: 40, max: 160, step: 5, say: (value) => `${value} Hz` }],
  sibilance: [{ key: 'amount', label: 'At most', min: 2, max: 15, step: 1, say: decibels }],
  levelling: [{ key: 'amount', label: 'How much', min: 0, max: 1, step: 0.05, say: share }],
  tone: ['body', 'clearness', 'air'].map((key) => ({
    key,
    label: key[0]!.toUpperCase() + key.slice(1),
    min: -12,
    max: 12,
    step: 1,
    say: decibels,
  })),
}

function Amounts({
  part,
  cleanUp,
  onChange,
}: {
  part: CleanUpPart
  cleanUp: CleanUp
  onChange: (values: object) => void
}) {
  const values = cleanUp[part] as Record<string, number | boolean>
  return AMOUNTS[part]?.map(({ key, label, min, max, step, say }) => (
    <Dial
      key={key}
      label={`${label}`}
      value={values[key] as number}
      {...{ min, max, step, say }}
      onCommit={(value) => onChange({ [key]: value })}
    />
  ))
}

/** A slider whose value counts when it is let go: the whole take is cleaned anew for each. */
function Dial({
  label,
  value,
  say,
  onCommit,
  ...range
}: Omit<Amount, 'key'> & { value: number; onCommit: (value: number) => void }) {
  const [draft, setDraft] = useState<number | null>(null)
  return (
    <label className={styles.dial}>
      <span>{label}</span>
      <Slider
        {...range}
        ariaLabelForHandle={label}
        value={draft ?? value}
        tooltip={{ formatter: (shown) => say(shown ?? 0) }}
        onChange={setDraft}
        onChangeComplete={(next) => {
          setDraft(null)
          onCommit(next)
        }}
      />
      <span>{say(draft ?? value)}</span>
    </label>
  )
}

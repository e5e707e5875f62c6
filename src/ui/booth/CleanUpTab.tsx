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
import { say } from '@/messages/say'
import { decimal, signed } from '../format'
import { useDesk, useLesson, useLessonState } from '../lesson/context'
import { cleaningState } from '../lesson/useCleaning'
import { useOneMove } from '../parts/useOneMove'
import styles from './booth.module.css'

interface PartView {
  part: CleanUpPart
  label: string
  help: string
  /** What was measured, in words. */
  tell?: (measured: number) => string
}

const under = (measured: number) => say('booth.dbUnderYourVoice', { measured: decimal(measured, 0) })

/** By what an author would say is wrong. */
const groups = (): { name: string; parts: PartView[] }[] => [
  {
    name: say('booth.myRoom'),
    parts: [
      {
        part: 'noise',
        label: say('booth.roomNoise'),
        help: say('booth.takesFansTrafficAnd'),
        tell: under,
      },
      {
        part: 'hiss',
        label: say('booth.steadyHissAndHum'),
        help: say('booth.byTheRoomYou'),
        tell: under,
      },
      { part: 'rumble', label: say('booth.rumble'), help: say('booth.everythingBelowAVoice'), tell: under },
    ],
  },
  {
    name: say('booth.myMicrophone'),
    parts: [
      {
        part: 'plosives',
        label: say('booth.puffsOnPAnd'),
        help: say('booth.whereBreathHasHit'),
        tell: (measured) =>
          measured < 0.5 ? say('booth.noneFound') : say('booth.aMinute', { measured: decimal(measured, 0) }),
      },
      {
        part: 'sibilance',
        label: say('booth.sharpS'),
        help: say('booth.softensSAndSh'),
        tell: (measured) => say('booth.dbBesideTheRest', { measured: signed(measured, 0) }),
      },
      { part: 'clicks', label: say('booth.clicks'), help: say('booth.onlyWhatClearlyStands') },
      {
        part: 'clipping',
        label: say('booth.clippedPeaks'),
        help: say('booth.roundsPeaksThatWere'),
        tell: (measured) => (measured === 0 ? say('booth.noneFound') : say('booth.inPlaces', { measured })),
      },
    ],
  },
  {
    name: say('booth.myLevel'),
    parts: [
      {
        part: 'levelling',
        label: say('booth.evenLevel'),
        help: say('booth.bringsLoudAndSoft'),
        tell: (measured) => say('booth.sentencesDifferByLu', { measured: decimal(measured, 0) }),
      },
      { part: 'tone', label: say('booth.tone'), help: say('booth.bodyIsWarmthClearness') },
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
  const changed = (part: CleanUpPart, values: object): CleanUp => ({
    ...cleanUp,
    [part]: { ...cleanUp[part], ...values },
  })
  const move = (part: CleanUpPart, values: object, isFirst: boolean) =>
    store.getState().continueEdit({ name: 'setCleanUp', media, cleanUp: changed(part, values) }, isFirst)
  return (
    <div className={styles.cleanUp}>
      <Segmented
        block
        aria-label={say('booth.whatIsCleaned')}
        value={scope}
        onChange={setScope}
        options={[
          { value: 'lesson', label: say('booth.allTakesOfThe') },
          { value: 'take', label: say('booth.theTakeInUse'), disabled: !used },
        ]}
      />
      <p className={styles.hint}>
        {scope === 'take' && !own ? say('booth.asTheLessonsVoice') : say('booth.takesNeverChange')}
      </p>
      <div className={styles.actions}>
        <Button size="small" onClick={() => set(USUAL_CLEAN_UP)}>
          {say('booth.usualCleanUp')}
        </Button>
        {advice && (
          <Button size="small" onClick={() => set(advised(cleanUp, advice))}>
            {say('booth.asAdvised')}
          </Button>
        )}
        <Button
          size="small"
          disabled={scope === 'take' ? !own : !isActive(cleanUp)}
          onClick={() => set(scope === 'take' ? null : NO_CLEAN_UP)}
        >
          {say('booth.reset')}
        </Button>
        <BeforeAfter />
        <Progress media={used?.media} />
      </div>
      {groups().map(({ name, parts }) => (
        <section key={name} aria-label={name}>
          <h3>{name}</h3>
          {parts.map(({ part, label, help, tell }) => (
            <div key={part}>
              <label>
                <Switch
                  size="small"
                  aria-label={label}
                  checked={cleanUp[part].on}
                  onChange={(on) => set(changed(part, { on }))}
                />
                <b>{label}</b>
                <span>{help}</span>
              </label>
              {advice && tell && advice[part].measured !== null && (
                <p className={styles.measured}>
                  {say.rich(advice[part].advised ? 'booth.measuredAdvised' : 'booth.measured', {
                    measured:
                      part === 'hiss' && hum
                        ? say('booth.andHum', { measured: tell(advice[part].measured), at: hum.at })
                        : tell(advice[part].measured),
                    b: (words) => <b>{words}</b>,
                  })}
                </p>
              )}
              {cleanUp[part].on && (
                <Amounts part={part} cleanUp={cleanUp} onChange={(values, isFirst) => move(part, values, isFirst)} />
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
      aria-label={say('booth.whatIsHeard')}
      value={raw ? 'before' : 'after'}
      options={[
        { value: 'before', label: say('booth.hearBefore') },
        { value: 'after', label: say('booth.hearAfter') },
      ]}
      onChange={(value) => store.setState({ hearsRaw: value === 'before' })}
    />
  )
}

function Progress({ media }: { media: string | undefined }) {
  const cleaning = useLessonState((state) => (media ? cleaningState(state, media) : null))
  if (!cleaning) return <small data-testid="cleaning">{say('booth.nothingIsChanged')}</small>
  if (cleaning.error)
    return <small className={styles.fault}>{say('booth.tryItAgainAt', { error: cleaning.error })}</small>
  return (
    <small data-testid="cleaning">
      {cleaning.media ? say('booth.cleaned') : say('booth.cleaning', { percent: Math.round(cleaning.progress * 100) })}
    </small>
  )
}

interface Amount {
  key: string
  label: string
  min: number
  max: number
  step: number
  show: (value: number) => string
}
const decibels = (value: number) => `${signed(value, 0)} dB`
const share = (value: number) => `${Math.round(value * 100)} %`
const amounts = (): Partial<Record<CleanUpPart, Amount[]>> => ({
  noise: [{ key: 'amount', label: say('booth.howMuch'), min: 0, max: 1, step: 0.05, show: share }],
  hiss: [{ key: 'amount', label: say('booth.atMost'), min: 3, max: 30, step: 1, show: decibels }],
  rumble: [{ key: 'below', label: say('booth.below'), min: 40, max: 160, step: 5, show: (value) => `${value} Hz` }],
  sibilance: [{ key: 'amount', label: say('booth.atMost'), min: 2, max: 15, step: 1, show: decibels }],
  levelling: [{ key: 'amount', label: say('booth.howMuch'), min: 0, max: 1, step: 0.05, show: share }],
  tone: (['body', 'clearness', 'air'] as const).map((key) => ({
    key,
    label: say(`booth.${key}`),
    min: -12,
    max: 12,
    step: 1,
    show: decibels,
  })),
})

function Amounts({
  part,
  cleanUp,
  onChange,
}: {
  part: CleanUpPart
  cleanUp: CleanUp
  onChange: (values: object, isFirst: boolean) => void
}) {
  const values = cleanUp[part] as Record<string, number | boolean>
  return amounts()[part]?.map(({ key, label, min, max, step, show }) => (
    <Dial
      key={key}
      label={`${label}`}
      value={values[key] as number}
      {...{ min, max, step, show }}
      onCommit={(value, isFirst) => onChange({ [key]: value }, isFirst)}
    />
  ))
}

/** A slider whose value counts when it is let go: the whole take is cleaned anew for each. */
function Dial({
  label,
  value,
  show,
  onCommit,
  ...range
}: Omit<Amount, 'key'> & { value: number; onCommit: (value: number, isFirst: boolean) => void }) {
  const [draft, setDraft] = useState<number | null>(null)
  const { frame, isFirst, done } = useOneMove()
  return (
    <label className={styles.dial} {...frame}>
      <span>{label}</span>
      <Slider
        {...range}
        ariaLabelForHandle={label}
        value={draft ?? value}
        tooltip={{ formatter: (shown) => show(shown ?? 0) }}
        onChange={setDraft}
        onChangeComplete={(next) => {
          setDraft(null)
          onCommit(next, isFirst())
          done()
        }}
      />
      <span>{show(draft ?? value)}</span>
    </label>
  )
}

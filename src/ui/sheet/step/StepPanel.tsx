'use client'

import { Button, Input, Select } from 'antd'
import { nanoid } from 'nanoid'
import { newStep, type Picture, type Step } from '@/core/lesson/document'
import type { StepSpan } from '@/core/lesson/timeline'
import { LIMITS } from '@/core/lesson/limits'
import { clock } from '../../format'
import { useTyped } from '../../lesson/useTyped'
import { useDesk, useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { LengthEditor } from './LengthEditor'
import { HeardReport } from './HeardReport'
import { FurtherPictures } from './FurtherPictures'
import { RecordingEditor } from './RecordingEditor'
import { CardLines } from './CardLines'
import styles from '../panel.module.css'

export function StepPanel() {
  const { store } = useDesk()
  const timeline = useTimeline()
  const selected = useLessonState((state) => state.selected)
  const spans = timeline.steps.filter(({ step }) => selected.includes(step.id))
  const addCard = () => {
    const { edit, select, caret, history } = store.getState()
    const step = newStep(nanoid(10), 'New card', { kind: 'card', lines: ['New card'] })
    const at = history.lesson.steps.findIndex(({ id }) => id === caret?.step)
    if (edit({ name: 'addSteps', before: history.lesson.steps[at + 1]?.id ?? null, steps: [step] })) {
      select([step.id], { step: step.id, word: 0 })
    }
  }
  return (
    <>
      {spans.length === 0 && <p className={styles.note}>Select a step to see what is set for it.</p>}
      {spans.length === 1 && <OneStep key={spans[0]!.step.id} span={spans[0]!} />}
      {spans.length > 1 && (
        <p>
          <b>{spans.length} steps</b>, {clock(spans.reduce((sum, { start, end }) => sum + end - start, 0))} together.
          Drag one of them, or press Alt with an arrow key, to move them all; Delete takes them out.
        </p>
      )}
      <div className={styles.actions}>
        <Button size="small" onClick={addCard}>
          Add a card after this
        </Button>
      </div>
    </>
  )
}

function OneStep({ span }: { span: StepSpan }) {
  const { store } = useDesk()
  const { step, index } = span
  const { type } = store.getState()
  return (
    <>
      <h2 className={styles.heading}>
        Step {index + 1} · {step.title}
      </h2>
      <div className={styles.fields}>
        <label htmlFor="step-title">Title</label>
        <TypedText
          id="step-title"
          value={step.title}
          onType={(title, isFirst) => type({ name: 'renameStep', step: step.id, title }, isFirst)}
        />
        <span>Picture</span>
        <span>
          <SayPicture picture={step.picture} />
        </span>
        {step.picture.kind === 'card' && (
          <div className={styles.wide}>
            <CardLines
              lines={step.picture.lines}
              onChange={(lines, isFirst) =>
                type({ name: 'setPicture', step: step.id, picture: { kind: 'card', lines } }, isFirst)
              }
            />
          </div>
        )}
        {step.picture.kind === 'recording' && <RecordingSound step={step} picture={step.picture} />}
        {step.picture.kind === 'recording' && <RecordingEditor step={step} picture={step.picture} />}
        <FurtherPictures step={step} />
        <div className={styles.wide}>
          <LengthEditor span={span} />
        </div>
        <span>Voice</span>
        <span>
          <SayVoice step={step} />
        </span>
        <HeardReport step={step} />
        <label htmlFor="step-script" className={styles.wide}>
          Script
        </label>
        <div className={styles.wide}>
          <TypedText
            id="step-script"
            lines
            value={step.script}
            onType={(script, isFirst) => type({ name: 'setScript', step: step.id, script }, isFirst)}
          />
        </div>
      </div>
    </>
  )
}

function SayPicture({ picture }: { picture: Picture }) {
  const shelf = useLesson().shelf
  if (picture.kind === 'card') return 'a card'
  const title = shelf.find(({ media }) => media === picture.media)?.title ?? 'a file that is missing'
  return picture.kind === 'still'
    ? `${title}, page ${picture.page}`
    : `${title}, ${clock(picture.from)} to ${clock(picture.to)}`
}

function SayVoice({ step }: { step: Step }) {
  const shelf = useLesson().shelf
  if (step.passages.length === 0) return 'nothing is said yet'
  const titles = [
    ...new Set(step.passages.map(({ media }) => shelf.find((item) => item.media === media)?.title ?? 'a missing file')),
  ]
  return `${titles.join(', ')}: ${step.passages.length === 1 ? 'one passage' : `${step.passages.length} passages`}`
}

const SOUND_LEVELS = [
  { value: 'off', label: 'silent' },
  { value: '-12', label: 'soft (−12 dB)' },
  { value: '-6', label: 'half (−6 dB)' },
  { value: '0', label: 'as recorded' },
]

function RecordingSound({ step, picture }: { step: Step; picture: Extract<Picture, { kind: 'recording' }> }) {
  const { store } = useDesk()
  const hasSound = useLessonState(({ media }) => (media.get(picture.media)?.channels ?? 0) > 0)
  if (!hasSound) return null
  return (
    <>
      <span>Its sound</span>
      <Select
        size="small"
        aria-label="The recording's own sound"
        value={picture.gain === null ? 'off' : String(picture.gain)}
        options={SOUND_LEVELS}
        onChange={(value) =>
          store.getState().edit({
            name: 'setPicture',
            step: step.id,
            picture: { ...picture, gain: value === 'off' ? null : Number(value) },
          })
        }
      />
      {picture.gain !== null && (picture.speed !== 1 || picture.pins.length > 0) && (
        <span className={styles.wide}>Where it plays faster or slower its sound does too, with its pitch kept.</span>
      )}
    </>
  )
}

interface TypedTextProps {
  id: string
  value: string
  lines?: boolean
  onType: (value: string, isFirst: boolean) => void
}

/** A text of the lesson, typed in place. */
function TypedText({ id, value, lines = false, onType }: TypedTextProps) {
  const typed = useTyped(value, onType)
  const shared = { id, value: typed.value, onBlur: typed.onBlur }
  return lines ? (
    <Input.TextArea
      {...shared}
      maxLength={LIMITS.scriptCharacters}
      rows={3}
      className={styles.script}
      onChange={(event) => typed.onChange(event.target.value)}
    />
  ) : (
    <Input
      {...shared}
      maxLength={LIMITS.nameCharacters}
      onChange={(event) => typed.onChange(event.target.value)}
      onPressEnter={typed.onBlur}
    />
  )
}

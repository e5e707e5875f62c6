'use client'

import { Button, Input, Select } from 'antd'
import type { Picture, RecordingPicture, Step, Take } from '@/core/lesson/document'
import type { StepSpan } from '@/core/lesson/timeline'
import { LIMITS } from '@/core/lesson/limits'
import { clock } from '../../format'
import { useTyped } from '../../lesson/useTyped'
import { useDesk, useLesson, useLessonState } from '../../lesson/context'
import { OverPictures } from '../../over/OverPictures'
import { HeardReport } from './HeardReport'
import { onDemand } from '../../parts/onDemand'
import type { SheetActions } from '../actions/actions'
import { LooseThings } from '../LooseThings'
import { Fold } from '../Fold'
import { LengthEditor } from './LengthEditor'
import { CardLines } from './CardLines'
import styles from '../panel.module.css'

const EdgeSettings = onDemand(() => import('../../over/EdgeSettings').then((part) => part.EdgeSettings))
const FramingSettings = onDemand(() => import('../../video/FramingSettings').then((part) => part.FramingSettings))
const StepCaptions = onDemand(() => import('../../captions/StepCaptions').then((part) => part.StepCaptions))
const ChapterSettings = onDemand(() => import('./ChapterSettings').then((part) => part.ChapterSettings))
const FurtherPictures = onDemand(() => import('./FurtherPictures').then((part) => part.FurtherPictures))
const RecordingEditor = onDemand(() => import('./RecordingEditor').then((part) => part.RecordingEditor))
const SoundTrackChoice = onDemand(() => import('./SoundTrackChoice').then((part) => part.SoundTrackChoice))

/** What is set for one step: what is usual at once, the rest folded. */
export function StepSettings({ span, actions }: { span: StepSpan; actions: SheetActions }) {
  const { store } = useDesk()
  const { step, index } = span
  const { type } = store.getState()
  const { picture } = step
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
        <label htmlFor="step-script">Script</label>
        <TypedText
          id="step-script"
          lines
          value={step.script}
          onType={(script, isFirst) => type({ name: 'setScript', step: step.id, script }, isFirst)}
        />
        <span>Voice</span>
        <span>
          <SayVoice step={step} />
        </span>
        <HeardReport step={step} />
        <span>Picture</span>
        <span>
          <SayPicture picture={picture} />
        </span>
        {picture.kind === 'card' && (
          <div className={styles.wide}>
            <CardLines
              lines={picture.lines}
              onChange={(lines, isFirst) =>
                type({ name: 'setPicture', step: step.id, picture: { kind: 'card', lines } }, isFirst)
              }
            />
          </div>
        )}
        {picture.kind === 'recording' && <RecordingSpeed step={step} picture={picture} />}
        {picture.kind === 'recording' && <SoundTrackChoice step={step} picture={picture} />}
        {picture.kind === 'recording' && <RecordingSound step={step} picture={picture} />}
        <span>Over it</span>
        <OverPictures step={step} />
        <LooseThings which={(loose) => loose.kind === 'layer' && loose.step.id === step.id} />
        <span>Stays</span>
        <LengthEditor span={span} />
        <LooseThings which={(loose) => loose.kind === 'picture' && loose.step.id === step.id} />
        <LooseThings which={(loose) => loose.kind === 'pin' && loose.step.id === step.id} />
      </div>
      <Fold name="more" title={step.more.length > 0 ? `Further pictures (${step.more.length})` : 'Further pictures'}>
        <FurtherPictures step={step} />
      </Fold>
      {picture.kind !== 'card' && (
        <Fold name="framing" title="How its picture stands in the frame">
          <FramingSettings
            framing={picture.framing}
            onChange={(framing) =>
              store.getState().edit({ name: 'setPicture', step: step.id, picture: { ...picture, framing } })
            }
          />
        </Fold>
      )}
      <Fold name="edge" title="How its picture gives way to the next">
        <EdgeSettings step={step} />
      </Fold>
      <Fold name="captions" title="Its captions">
        <StepCaptions span={span} />
      </Fold>
      <Fold name="chapter" title="Its chapter">
        <ChapterSettings step={step} />
      </Fold>
      {picture.kind === 'recording' && (
        <Fold name="recording" title="Pins, cuts and scenes of the recording">
          <div className={styles.fields}>
            <RecordingEditor step={step} picture={picture} />
          </div>
        </Fold>
      )}
      <div className={styles.actions}>
        <Button size="small" onClick={actions.booth}>
          Record or read it
        </Button>
        <Button size="small" onClick={actions.addCard}>
          Add a card after this
        </Button>
      </div>
    </>
  )
}

function SayPicture({ picture }: { picture: Picture }) {
  const shelf = useLesson().shelf
  const info = useLessonState(({ media }) => (picture.kind === 'card' ? undefined : media.get(picture.media)))
  if (picture.kind === 'card') return 'a card'
  const title = shelf.find(({ media }) => media === picture.media)?.title ?? 'a file that is missing'
  return picture.kind === 'still'
    ? `${title}, page ${info?.labels[picture.page - 1] || picture.page}`
    : `${title}, ${clock(picture.from)} to ${clock(picture.to)}`
}

function SayVoice({ step }: { step: Step }) {
  const { shelf, takes } = useLesson()
  if (step.passages.length === 0) return 'nothing is said yet'
  const nameOf = (media: string) =>
    shelf.find((item) => item.media === media)?.title ??
    HOW_SAID[takes.find((take) => take.media === media)?.kind ?? 'brought-in']
  const names = new Set(step.passages.map(({ media }) => nameOf(media)))
  return `${[...names].join(', ')}: ${step.passages.length === 1 ? 'one passage' : `${step.passages.length} passages`}`
}

/** What is heard of no file of the shelf: takes lie with their steps. */
const HOW_SAID: Record<Take['kind'], string> = {
  recorded: 'recorded in the booth',
  'brought-in': 'a file that was taken off the shelf',
  read: 'a synthesised voice',
}

const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2, 3, 4]

function RecordingSpeed({ step, picture }: RecordingProps) {
  const { store } = useDesk()
  const set = (part: Partial<RecordingPicture>) =>
    store.getState().edit({ name: 'setPicture', step: step.id, picture: { ...picture, ...part } })
  return (
    <>
      <span>Speed</span>
      <Select
        size="small"
        aria-label="Speed of the recording"
        value={picture.speed === null ? 'fit' : String(picture.speed)}
        options={[
          { value: 'fit', label: 'as long as its words' },
          ...SPEEDS.map((speed) => ({ value: String(speed), label: speed === 1 ? 'its own' : `${speed} times` })),
        ]}
        onChange={(value) => set({ speed: value === 'fit' ? null : Number(value) })}
      />
    </>
  )
}

interface RecordingProps {
  step: Step
  picture: RecordingPicture
}

const SOUND_LEVELS = [
  { value: 'off', label: 'silent' },
  { value: '-12', label: 'soft (−12 dB)' },
  { value: '-6', label: 'half (−6 dB)' },
  { value: '0', label: 'as recorded' },
]

function RecordingSound({ step, picture }: RecordingProps) {
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

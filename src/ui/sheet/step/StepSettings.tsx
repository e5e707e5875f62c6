'use client'

import { Button, Input, Select } from 'antd'
import type { Picture, RecordingPicture, Step, Take } from '@/core/lesson/document'
import type { StepSpan } from '@/core/lesson/timeline'
import { LIMITS } from '@/core/lesson/limits'
import { say } from '@/messages/say'
import { clock, decimal, listed } from '../../format'
import { useTyped } from '../../saving/useTyped'
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
  const { continueEdit } = store.getState()
  const { picture } = step
  return (
    <>
      <h2 className={styles.heading}>{say('step.step', { number: index + 1, title: step.title })}</h2>
      <div className={styles.fields}>
        <label htmlFor="step-title">{say('step.title')}</label>
        <TypedText
          id="step-title"
          value={step.title}
          onType={(title, isFirst) => continueEdit({ name: 'renameStep', step: step.id, title }, isFirst)}
        />
        <label htmlFor="step-script">{say('step.script')}</label>
        <TypedText
          id="step-script"
          lines
          value={step.script}
          onType={(script, isFirst) => continueEdit({ name: 'setScript', step: step.id, script }, isFirst)}
        />
        <span>{say('step.voice')}</span>
        <span>
          <SayVoice step={step} />
        </span>
        <HeardReport step={step} />
        <span>{say('step.picture')}</span>
        <span>
          <SayPicture picture={picture} />
        </span>
        {picture.kind === 'card' && (
          <div className={styles.wide}>
            <CardLines
              lines={picture.lines}
              onChange={(lines, isFirst) =>
                continueEdit({ name: 'setPicture', step: step.id, picture: { kind: 'card', lines } }, isFirst)
              }
            />
          </div>
        )}
        {picture.kind === 'recording' && <RecordingSpeed step={step} picture={picture} />}
        {picture.kind === 'recording' && <SoundTrackChoice step={step} picture={picture} />}
        {picture.kind === 'recording' && <RecordingSound step={step} picture={picture} />}
        <span>{say('step.overIt')}</span>
        <OverPictures step={step} />
        <LooseThings which={(loose) => 'layer' in loose && loose.step.id === step.id} />
        <span>{say('step.stays')}</span>
        <LengthEditor span={span} />
        <LooseThings which={(loose) => loose.kind === 'picture' && loose.step.id === step.id} />
        <LooseThings which={(loose) => loose.kind === 'pin' && loose.step.id === step.id} />
      </div>
      <Fold
        name="more"
        title={
          step.more.length > 0
            ? say('step.furtherPictures', { count: step.more.length })
            : say('step.furtherPicturesNone')
        }
      >
        <FurtherPictures step={step} />
      </Fold>
      {picture.kind !== 'card' && (
        <Fold name="framing" title={say('step.howItsPictureStands')}>
          <FramingSettings
            framing={picture.framing}
            onChange={(framing, isFirst) =>
              continueEdit({ name: 'setPicture', step: step.id, picture: { ...picture, framing } }, isFirst)
            }
          />
        </Fold>
      )}
      <Fold name="edge" title={say('step.howItsPictureGives')}>
        <EdgeSettings step={step} />
      </Fold>
      <Fold name="captions" title={say('step.itsCaptions')}>
        <StepCaptions span={span} />
      </Fold>
      <Fold name="chapter" title={say('step.itsChapter')}>
        <ChapterSettings step={step} />
      </Fold>
      {picture.kind === 'recording' && (
        <Fold name="recording" title={say('step.pinsCutsAndScenes')}>
          <div className={styles.fields}>
            <RecordingEditor step={step} picture={picture} />
          </div>
        </Fold>
      )}
      <div className={styles.actions}>
        <Button size="small" onClick={actions.booth}>
          {say('step.recordOrReadIt')}
        </Button>
        <Button size="small" onClick={actions.addCard}>
          {say('step.addACardAfter')}
        </Button>
      </div>
    </>
  )
}

function SayPicture({ picture }: { picture: Picture }) {
  const shelf = useLesson().shelf
  const info = useLessonState(({ media }) => (picture.kind === 'card' ? undefined : media.get(picture.media)))
  if (picture.kind === 'card') return say('step.aCard')
  const title = shelf.find(({ media }) => media === picture.media)?.title ?? say('step.aFileThatIs')
  return picture.kind === 'still'
    ? say('step.page', { title, page: info?.labels[picture.page - 1] || String(picture.page) })
    : say('step.partOf', { title, from: clock(picture.from), to: clock(picture.to) })
}

function SayVoice({ step }: { step: Step }) {
  const { shelf, takes } = useLesson()
  if (step.passages.length === 0) return say('step.nothingIsSaidYet')
  const nameOf = (media: string) =>
    shelf.find((item) => item.media === media)?.title ??
    howSaid()[takes.find((take) => take.media === media)?.kind ?? 'brought-in']
  const names = new Set(step.passages.map(({ media }) => nameOf(media)))
  return say('step.passages', { names: listed([...names]), count: step.passages.length })
}

/** What is heard of no file of the shelf: takes lie with their steps. */
const howSaid = (): Record<Take['kind'], string> => ({
  recorded: say('step.recordedInTheBooth'),
  'brought-in': say('step.aFileThatWas'),
  read: say('step.aSynthesisedVoice'),
})

const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2, 3, 4]

function RecordingSpeed({ step, picture }: RecordingProps) {
  const { store } = useDesk()
  const set = (part: Partial<RecordingPicture>) =>
    store.getState().edit({ name: 'setPicture', step: step.id, picture: { ...picture, ...part } })
  return (
    <>
      <span>{say('step.speed')}</span>
      <Select
        size="small"
        aria-label={say('step.speedOfTheRecording')}
        value={picture.speed === null ? 'fit' : String(picture.speed)}
        options={[
          { value: 'fit', label: say('step.asLongAsIts') },
          ...SPEEDS.map((speed) => ({
            value: String(speed),
            label:
              speed === 1
                ? say('step.itsOwn')
                : say('step.times', {
                    speed: decimal(speed, Number.isInteger(speed) ? 0 : Number.isInteger(speed * 2) ? 1 : 2),
                  }),
          })),
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

const soundLevels = () => [
  { value: 'off', label: say('step.silent') },
  { value: '-12', label: say('step.soft12Db') },
  { value: '-6', label: say('step.half6Db') },
  { value: '0', label: say('step.asRecorded') },
]

function RecordingSound({ step, picture }: RecordingProps) {
  const { store } = useDesk()
  const hasSound = useLessonState(({ media }) => (media.get(picture.media)?.channels ?? 0) > 0)
  if (!hasSound) return null
  return (
    <>
      <span>{say('step.itsSound')}</span>
      <Select
        size="small"
        aria-label={say('step.theRecordingsOwnSound')}
        value={picture.gain === null ? 'off' : String(picture.gain)}
        options={soundLevels()}
        onChange={(value) =>
          store.getState().edit({
            name: 'setPicture',
            step: step.id,
            picture: { ...picture, gain: value === 'off' ? null : Number(value) },
          })
        }
      />
      {picture.gain !== null && (picture.speed !== 1 || picture.pins.length > 0) && (
        <span className={styles.wide}>{say('step.whereItPlaysFaster')}</span>
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

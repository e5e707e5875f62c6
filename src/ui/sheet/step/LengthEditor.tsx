'use client'

import { Button, Select } from 'antd'
import { edgesOf } from '@/core/lesson/layout'
import type { StepSpan } from '@/core/lesson/timeline'
import type { LengthRule, Step } from '@/core/lesson/document'
import { READING_PACE } from '@/core/lesson/newParts'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { useDesk, useLesson, useLessonState } from '../../lesson/context'
import { onDemand } from '../../parts/onDemand'
import { SecondsField } from '../../parts/SecondsField'
import styles from './length.module.css'

const LengthMends = onDemand(() => import('./LengthMends').then((part) => part.LengthMends))

const round = (time: Seconds) => Math.round(time * 10) / 10

const rules = (): { value: LengthRule['kind']; label: string }[] => [
  { value: 'voice', label: say('step.followsTheVoice') },
  { value: 'lesson', label: say('step.followsTheVoiceAs') },
  { value: 'reading', label: say('step.timeToReadWhat') },
  { value: 'until-next', label: say('step.untilTheNextWord') },
  { value: 'fixed', label: say('step.fixedLength') },
]

/** The length rule of a step, and what can be done where it can't hold. */
export function LengthEditor({ span }: { span: Pick<StepSpan, 'step' | 'start' | 'end' | 'overrun'> }) {
  const { store } = useDesk()
  const { step, start, end } = span
  const words = useWordsOnPicture(step)
  const { edit } = store.getState()
  const setRule = (length: LengthRule) => edit({ name: 'setLength', step: step.id, length })
  const { length } = step
  return (
    <div className={styles.form}>
      <Select
        aria-label={say('step.lengthRule')}
        value={length.kind}
        options={rules()}
        onChange={(kind) => setRule(newRule(kind, round(end - start), words))}
      />
      {span.overrun > 0.05 && <LengthMends span={span} onRule={setRule} />}
      {length.kind === 'fixed' && (
        <SecondsField
          label={say('step.staysFor')}
          value={length.length}
          least={0.1}
          onChange={(value) => setRule({ kind: 'fixed', length: value })}
        />
      )}
      {(length.kind === 'voice' || length.kind === 'until-next') && (
        <SecondsField
          label={say('step.atLeast')}
          value={length.atLeast}
          least={0}
          onChange={(atLeast) => setRule({ ...length, atLeast })}
        />
      )}
      {length.kind === 'reading' && (
        <SecondsField
          label={say('step.forEachOfWords', { words: length.words })}
          value={length.perWord}
          least={0}
          onChange={(perWord) => setRule({ ...length, perWord })}
        />
      )}
      {length.kind === 'lesson' ? <LessonLengths /> : length.kind !== 'fixed' && <Edges step={step} />}
    </div>
  )
}

function newRule(kind: LengthRule['kind'], now: Seconds, words: number): LengthRule {
  switch (kind) {
    case 'fixed':
      return { kind, length: now }
    case 'lesson':
      return { kind }
    case 'reading':
      return { kind, perWord: READING_PACE, words }
    default:
      return { kind, atLeast: 1 }
  }
}

/** Counted once, when the rule is set: the file's text on this page, or the card's lines. */
function useWordsOnPicture({ picture }: Step): number {
  const media = useLessonState((state) => state.media)
  const count = (text: string) => text.split(/\s+/).filter(Boolean).length
  if (picture.kind === 'card') return count(picture.lines.join(' '))
  return picture.kind === 'still' ? count(media.get(picture.media)?.texts[picture.page - 1] ?? '') : 0
}

function Edges({ step }: { step: Step }) {
  const { store } = useDesk()
  const { edit } = store.getState()
  const { leadIn, tail } = edgesOf(step, useLesson().lengths)
  return (
    <>
      <SecondsField
        label={say('step.leadInBeforeThe')}
        value={leadIn}
        least={0}
        onChange={(value) => edit({ name: 'setLeadIn', step: step.id, leadIn: value })}
      />
      <SecondsField
        label={say('step.tailAfterTheLast')}
        value={tail}
        least={0}
        onChange={(value) => edit({ name: 'setTail', step: step.id, tail: value })}
      />
    </>
  )
}

/** The lesson's own rule, and a way to give it to all steps. */
function LessonLengths() {
  const { store } = useDesk()
  const { lengths, steps } = useLesson()
  const { edit } = store.getState()
  const others = steps.filter(({ length }) => length.kind === 'voice')
  const fields = [
    ['leadIn', say('step.leadInInAll')],
    ['tail', say('step.tailInAllSuch')],
    ['atLeast', say('step.atLeastInAll')],
  ] as const
  return (
    <>
      {fields.map(([key, label]) => (
        <SecondsField
          key={key}
          label={label}
          value={lengths[key]}
          least={0}
          onChange={(value) => edit({ name: 'setLengths', lengths: { ...lengths, [key]: value } })}
        />
      ))}
      {others.length > 0 && (
        <Button
          size="small"
          onClick={() => edit({ name: 'setLengthOf', steps: others.map(({ id }) => id), length: { kind: 'lesson' } })}
        >
          {say('step.useItForThe', { count: others.length })}
        </Button>
      )}
    </>
  )
}

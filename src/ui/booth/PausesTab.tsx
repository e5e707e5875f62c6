'use client'

import { takeSpeech } from '@/core/measure/takeVoice'
import { Button, Segmented, Select } from 'antd'
import { nanoid } from 'nanoid'
import { useMemo, useState } from 'react'
import type { Step } from '@/core/lesson/document'
import { cutTime, pauseCuts } from '@/core/narration/lay/pauses'
import { say } from '@/messages/say'
import { decimal } from '@/ui/format'
import { useDesk, useLesson, useLessonState } from '../lesson/context'
import { pauseBefore, wordsOfStep } from '../words/caret'
import { NumberField } from '../parts/NumberField'
import styles from './booth.module.css'

/** Dead air: found and shown before anything is cut. And silence put in where viewers need time. */
export function PausesTab({ step }: { step: Step }) {
  const { store } = useDesk()
  const lesson = useLesson()
  const analyses = useLessonState((state) => state.analyses)
  const [longest, setLongest] = useState(1.2)
  const [kept, setKept] = useState(0.7)
  const [scope, setScope] = useState<'lesson' | 'step'>('lesson')
  const cuts = useMemo(() => {
    const steps = scope === 'lesson' ? lesson.steps : [step]
    const factsOf = (media: string) => {
      const analysis = analyses.get(media)
      return analysis && { analysis, speech: takeSpeech(analysis) }
    }
    return pauseCuts({ steps }, { longest, kept: Math.min(kept, longest) }, factsOf, () => nanoid(10))
  }, [lesson.steps, step, scope, longest, kept, analyses])
  return (
    <div className={styles.cleanUp}>
      <h3>{say('booth.shortenLongPauses')}</h3>
      <Segmented
        block
        aria-label={say('booth.where')}
        value={scope}
        onChange={setScope}
        options={[
          { value: 'lesson', label: say('booth.inTheWholeLesson') },
          { value: 'step', label: say('booth.inThisStep') },
        ]}
      />
      <p>
        {say.rich('booth.shortenPauses', {
          longest: () => <Time label={say('booth.longestPause')} value={longest} onChange={setLongest} />,
          kept: () => <Time label={say('booth.whatStaysOfIt')} value={kept} onChange={setKept} />,
        })}
      </p>
      <p data-testid="dead-air">
        <b>
          {cuts.length === 0
            ? say('booth.noPauseIsLonger')
            : say('booth.pausesFound', { count: cuts.length, time: decimal(cutTime(cuts)) })}
        </b>
      </p>
      <Button
        type="primary"
        disabled={cuts.length === 0}
        onClick={() => store.getState().edit({ name: 'shortenPauses', cuts })}
      >
        {say('booth.shortenThem')}
      </Button>
      <InsertPause step={step} />
    </div>
  )
}

/** Silence of a typed length at the caret: time to think, or room for a second voice. */
function InsertPause({ step }: { step: Step }) {
  const { store } = useDesk()
  const [length, setLength] = useState(2)
  const state = useLessonState((all) => all)
  const words = useMemo(() => wordsOfStep(state, step.id), [state, step.id])
  const [chosen, setChosen] = useState<number | null>(null)
  const inCaret = state.caret?.step === step.id ? state.caret.word : 0
  const index = Math.min(chosen ?? inCaret, Math.max(0, words.length - 1))
  const put = () => {
    const edit = pauseBefore(state, step.id, index, length)
    if (edit) store.getState().edit(edit)
  }
  return (
    <>
      <h3>{say('booth.putInAPause')}</h3>
      <p>
        {say.rich('booth.pauseBefore', {
          length: () => <Time label={say('booth.lengthOfThePause')} value={length} onChange={setLength} />,
          word: () => (
            <Select
              size="small"
              aria-label={say('booth.beforeWhichWord')}
              style={{ width: 190 }}
              showSearch={{ optionFilterProp: 'label' }}
              value={words.length > 0 ? index : null}
              options={words.map(({ text }, i) => ({
                value: i,
                label: text ? `${i + 1}. ${text}` : say('booth.phrase', { number: i + 1 }),
              }))}
              onChange={setChosen}
            />
          ),
        })}
      </p>
      <Button disabled={words.length === 0} onClick={put}>
        {say('booth.putItIn')}
      </Button>
    </>
  )
}

function Time({ label, value, onChange }: { label: string; value: number; onChange: (value: number) => void }) {
  return (
    <NumberField
      size="small"
      aria-label={label}
      min={0.2}
      max={60}
      step={0.1}
      value={value}
      suffix="s"
      style={{ width: 84 }}
      onChange={(next) => next !== null && onChange(next)}
    />
  )
}

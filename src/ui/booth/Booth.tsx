'use client'

import { Alert } from 'antd'
import { useEffect, useState } from 'react'
import { say } from '@/messages/say'
import { useKeys } from '../keys'
import { useDesk, useLesson, useLessonState, useTimeline } from '../lesson/context'
import { ScreenCapture } from './ScreenCapture'
import { ScriptPage } from './ScriptPage'
import { StepList } from './StepList'
import { StepPicture } from './StepPicture'
import { Takes } from './Takes'
import { Controls } from './Controls'
import { endAudition } from '../player/audition'
import { LiveWave } from './LiveWave'
import { punchOf } from './punch'
import { useBooth } from './useBooth'
import styles from './booth.module.css'

/** In characters. */
const SHORT = 160

/** Where the voice is recorded: the script large, the picture beside it, and the takes of the step. */
export function Booth() {
  const { store, player } = useDesk()
  const lesson = useLesson()
  const timeline = useTimeline()
  const booth = useBooth()
  const selected = useLessonState((state) => state.selected[0])
  const [place, setPlace] = useState<{ step: string; phrase: number } | null>(null)
  const span = timeline.steps.find(({ step }) => step.id === selected) ?? timeline.steps[0]
  const step = span?.step
  const from = place && place.step === step?.id ? place.phrase : 0
  // What is auditioned belongs to this view.
  useEffect(() => () => endAudition(store, player), [store, player])

  const isRecording = booth.phase === 'recording'
  const toggle = () => {
    if (isRecording) void booth.stop()
    else if (booth.phase === 'ready' && step) void booth.start(step.id, punchOf(store, step.id, from))
  }
  const choose = (index: number) => {
    const next = lesson.steps[index]
    if (next && !isRecording) store.getState().select([next.id], { step: next.id, word: 0 })
  }
  const index = span?.index ?? 0
  useKeys({
    r: toggle,
    space: ({ timeStamp }) => isRecording && booth.mode !== 'step' && booth.next(timeStamp / 1000),
    down: () => choose(index + 1),
    up: () => choose(index - 1),
  })

  if (!span || !step) return <p className={styles.empty}>{say('booth.bringInPicturesOn')}</p>
  // A short script leaves room for the picture beside it.
  const isShort = step.script.length <= SHORT
  return (
    <div className={styles.booth}>
      <StepList current={step.id} disabled={isRecording} onChoose={choose} />
      <section className={styles.stage} aria-label={say('booth.scriptAndRecording')}>
        <ScriptPage span={span} booth={booth} from={from} onFrom={(phrase) => setPlace({ step: step.id, phrase })} />
        {isShort && (
          <div className={styles.stagePicture}>
            <StepPicture step={step} time={isRecording ? booth.time : null} />
          </div>
        )}
        {isRecording && <LiveWave booth={booth} />}
        <Controls booth={booth} step={step} from={from} onToggle={toggle} />
      </section>
      <aside className={styles.side} aria-label={say('booth.pictureAndTakes')}>
        {!isShort && <StepPicture step={step} time={isRecording ? booth.time : null} />}
        <ScreenCapture step={step.id} microphone={booth} />
        {/* It stays until it is read, and covers nothing: who records doesn't look at the screen. */}
        {booth.gaps && (
          <Alert
            type="warning"
            showIcon
            title={say('booth.thisTakeHasGaps')}
            description={booth.gaps}
            closable={{ onClose: booth.closeGaps }}
          />
        )}
        <Takes step={step} />
      </aside>
    </div>
  )
}

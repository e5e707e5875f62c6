'use client'

import { DeleteOutlined } from '@/ui/parts/icons'
import { App, Button } from 'antd'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { RecordingPicture, Step } from '@/core/lesson/document'
import { motionAt, SPEED_LIMITS, speedOf } from '@/core/picture/motion'
import { splitAtScenes, type StepPart } from '@/core/picture/scenes'
import { say } from '@/messages/say'
import { clock } from '../../format'
import { useDesk, useLessonState, useTimeline } from '../../lesson/context'
import { runJob } from '../../jobs'
import { markAtCaret, sayMark } from '../../words/anchors'
import { wordsOfStep } from '../../words/caret'
import styles from '../panel.module.css'

/** Moments of a recording pinned to words, parts cut out of it, and its scenes. */
export function RecordingEditor({ step, picture }: { step: Step; picture: RecordingPicture }) {
  const { store, player } = useDesk()
  const { message } = App.useApp()
  const timeline = useTimeline()
  const state = useLessonState((all) => all)
  const [cutFrom, setCutFrom] = useState<number | null>(null)
  const [busy, setBusy] = useState(false)
  const set = (part: Partial<RecordingPicture>) =>
    store.getState().edit({ name: 'setPicture', step: step.id, picture: { ...picture, ...part } })
  const span = timeline.pictures.find((one) => one.step.id === step.id && one.further === null)

  /** The moment of the recording that is seen at the playhead; null where another picture is. */
  const momentNow = (): number | null => {
    const time = player.position()
    if (!span || time < span.start || time > span.end) return null
    const motion = motionAt(span.motions, time)
    return motion ? motion.from + Math.max(0, time - motion.start) * speedOf(motion) : null
  }
  const atPlayhead = (use: (moment: number) => void) => () => {
    const moment = momentNow()
    if (moment === null) void message.info(say('step.putThePlayheadInto'))
    else use(moment)
  }
  const pin = atPlayhead((at) => {
    const mark = markAtCaret(state)
    if (!mark) return void message.info(say('step.putTheCaretBeforeThe'))
    const pins = [...picture.pins, { id: nanoid(10), at, mark: mark.id }]
    store
      .getState()
      .edit({ name: 'placeMarks', marks: [mark] }, { name: 'setPicture', step: step.id, picture: { ...picture, pins } })
  })
  const cut = atPlayhead((at) => {
    if (cutFrom === null) return setCutFrom(at)
    const [from, to] = [Math.min(cutFrom, at), Math.max(cutFrom, at)]
    setCutFrom(null)
    if (to - from > 0.05) set({ cuts: [...picture.cuts, { from, to }] })
  })
  /** Each scene begins where it is seen now, and takes the words that are said from there on. */
  const partsAt = (scenes: readonly number[]): StepPart[] => {
    const words = wordsOfStep(state, step.id)
    const start = span?.start ?? 0
    return splitAtScenes(picture, scenes).map((part, i) => {
      const motion = span?.motions.find(({ from, to }) => part.from >= from && part.from < to)
      const at = i === 0 || !motion ? 0 : motion.start + (part.from - motion.from) / speedOf(motion) - start
      const scriptAt = words.find((word) => word.start - start >= at)?.script.from ?? step.script.length
      return { id: nanoid(10), picture: part, at, scriptAt }
    })
  }
  const split = async () => {
    setBusy(true)
    try {
      const { media, from, to } = picture
      const { scenes } = await runJob<'scenes'>({ kind: 'scenes', media, from, to })
      if (scenes.length === 0) void message.info(say('step.thePictureNeverChanges'))
      else store.getState().edit({ name: 'splitRecording', step: step.id, parts: partsAt(scenes) })
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(false)
  }
  return (
    <>
      <span>{say('step.pins')}</span>
      <span>
        {picture.pins.map((one) => (
          <span key={one.id} className={styles.pin}>
            {say('step.pinAt', {
              at: clock(one.at),
              mark: sayMark(state, one.mark) ?? say('step.pinWordsGone'),
            })}
            {span?.missed.includes(one.id) && <em> {say('step.needsMoreThanTimes', { most: SPEED_LIMITS.most })}</em>}
            <Button
              size="small"
              type="text"
              icon={<DeleteOutlined />}
              aria-label={say('step.takeThisPinOut')}
              onClick={() => set({ pins: picture.pins.filter(({ id }) => id !== one.id) })}
            />
          </span>
        ))}
        <Button size="small" onClick={pin} title={say('step.whatIsSeenAt')}>
          {say('step.pinThisMomentTo')}
        </Button>
      </span>
      <span>{say('step.cutOut')}</span>
      <span>
        {picture.cuts.map((one) => (
          <span key={one.from} className={styles.pin}>
            {say('step.fromTo', { from: clock(one.from), to: clock(one.to) })}
            <Button
              size="small"
              type="text"
              icon={<DeleteOutlined />}
              aria-label={say('step.showThisPartAgain')}
              onClick={() => set({ cuts: picture.cuts.filter((other) => other !== one) })}
            />
          </span>
        ))}
        <Button size="small" onClick={cut}>
          {cutFrom === null ? say('step.fromThePlayhead') : say('step.toThePlayhead', { cutFrom: clock(cutFrom) })}
        </Button>
      </span>
      <span>{say('step.scenes')}</span>
      <Button size="small" loading={busy} onClick={() => void split()}>
        {say('step.makeAStepOf')}
      </Button>
    </>
  )
}

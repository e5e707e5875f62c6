'use client'

import { say } from '@/messages/say'
import { useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { onDemand } from '../../parts/onDemand'
import { thingPicked } from '../../words/picked'
import type { SheetActions } from '../actions/actions'
import { StepSettings } from '../step/StepSettings'
import styles from '../panel.module.css'

const LayerSettings = onDemand(() => import('../../over/LayerSettings').then((part) => part.LayerSettings))
const FurtherPictureSettings = onDemand(() =>
  import('./FurtherPictureSettings').then((part) => part.FurtherPictureSettings),
)
const PieceSettings = onDemand(() => import('./PieceSettings').then((part) => part.PieceSettings))
const PickedSound = onDemand(() => import('./PickedSound').then((part) => part.PickedSound))
const WordSettings = onDemand(() => import('./WordSettings').then((part) => part.WordSettings))
const SeveralSteps = onDemand(() => import('./SeveralSteps').then((part) => part.SeveralSteps))

/** What is set for whatever is selected on the sheet: a tab, words, a step, several steps. */
export function SelectedPanel({ actions }: { actions: SheetActions }) {
  const lesson = useLesson()
  const timeline = useTimeline()
  const selected = useLessonState((state) => state.selected)
  const isWords = useLessonState(({ caret }) => caret !== null && (caret.word > 0 || caret.anchor !== undefined))
  const thing = thingPicked(
    lesson,
    useLessonState((state) => state.picked),
  )
  const spans = timeline.steps.filter(({ step }) => selected.includes(step.id))
  switch (thing?.kind) {
    case 'sound':
      return <PickedSound key={thing.cue.id} cue={thing.cue} actions={actions} />
    case 'picture':
      return <FurtherPictureSettings key={thing.id} step={thing.step} id={thing.id} actions={actions} />
    case 'layer':
      return <LayerSettings key={thing.id} step={thing.step} layer={thing.layer} actions={actions} />
    case 'bed':
      return <PieceSettings key={thing.cue.id} cue={thing.cue} actions={actions} />
  }
  if (spans.length === 0) return <p className={styles.note}>{say('selected.selectAStepTo')}</p>
  if (spans.length > 1) return <SeveralSteps spans={spans} actions={actions} />
  return (
    <>
      {isWords && <WordSettings actions={actions} />}
      <StepSettings key={spans[0]!.step.id} span={spans[0]!} actions={actions} />
    </>
  )
}

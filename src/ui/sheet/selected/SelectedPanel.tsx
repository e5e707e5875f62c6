'use client'

import { useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { LayerSettings } from '../../over/LayerSettings'
import { thingPicked } from '../../words/picked'
import type { SheetActions } from '../actions/actions'
import { StepSettings } from '../step/StepSettings'
import { FurtherPictureSettings } from './FurtherPictureSettings'
import { PieceSettings } from './PieceSettings'
import { PickedSound } from './PickedSound'
import { SeveralSteps } from './SeveralSteps'
import { WordSettings } from './WordSettings'
import styles from '../panel.module.css'

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
  if (spans.length === 0) return <p className={styles.note}>Select a step to see what is set for it.</p>
  if (spans.length > 1) return <SeveralSteps spans={spans} actions={actions} />
  return (
    <>
      {isWords && <WordSettings actions={actions} />}
      <StepSettings key={spans[0]!.step.id} span={spans[0]!} actions={actions} />
    </>
  )
}

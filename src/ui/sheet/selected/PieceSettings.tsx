'use client'

import type { BedCue } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { useLesson, useTimeline } from '../../lesson/context'
import { titleOf } from '../../words/anchors'
import type { SheetActions } from '../actions/actions'
import { BedFields } from '../music/BedSettings'
import { ThingHead } from './ThingHead'

/** A piece of music: from where to where it plays, and how it stands against the voice. */
export function PieceSettings({ cue, actions }: { cue: BedCue; actions: SheetActions }) {
  const lesson = useLesson()
  const timeline = useTimeline()
  const span = timeline.beds.find((bed) => bed.cue.id === cue.id)
  const first = span && timeline.steps.findLast(({ start }) => start <= span.start + 1e-6)
  const last = span && timeline.steps.findLast(({ start }) => start < span.end - 1e-6)
  const place = span
    ? say('selected.underStepsTo', { first: (first?.index ?? 0) + 1, last: (last?.index ?? 0) + 1 })
    : say('selected.notHeardNow')
  return (
    <>
      <ThingHead kind={say('selected.music')} title={titleOf(lesson, cue.media)} place={place} actions={actions} />
      <BedFields cue={cue} />
    </>
  )
}

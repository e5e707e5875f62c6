'use client'

import type { SoundCue } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { clock } from '../../format'
import { useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { sayPlace, titleOf } from '../../words/anchors'
import type { SheetActions } from '../actions/actions'
import { SoundSettings } from '../sounds/SoundSettings'
import { ThingHead } from './ThingHead'

export function PickedSound({ cue, actions }: { cue: SoundCue; actions: SheetActions }) {
  const lesson = useLesson()
  const state = useLessonState((all) => all)
  const start = useTimeline().sounds.find((one) => one.cue.id === cue.id)?.start
  const place = sayPlace(state, cue)
  return (
    <>
      <ThingHead
        kind={cue.track === 'voice' ? say('selected.secondVoice') : say('selected.sound')}
        title={titleOf(lesson, cue.media)}
        place={start === undefined ? place : `${clock(start)} · ${place}`}
        actions={actions}
        hasMoments
      />
      <SoundSettings cue={cue} />
    </>
  )
}

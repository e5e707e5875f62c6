import type { Picture, Step } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import type { Loose } from '@/core/lesson/timeline'
import { say } from '@/messages/say'
import type { LessonState } from '../lesson/lessonStore'
import { anchorAtCaret, markAtCaret, titleOf } from './anchors'
import { layerTitle } from '../over/layerNames'

/** What can be done with something that has come loose. */

export function sayLoose({ history: { lesson } }: LessonState, loose: Loose): string {
  switch (loose.kind) {
    case 'sound':
    case 'bed':
    case 'bed-end':
      return `“${titleOf(lesson, loose.cue.media)}”`
    case 'nudge':
      return say('words.aPointOfThe')
    case 'picture':
      return say('words.aFurtherPicture')
    case 'layer':
    case 'layer-end':
      return layerTitle(loose.layer)
    case 'pin':
      return say('words.aPinnedMomentOf')
  }
}

/** Hangs it on the word or step at the caret; null where there is nothing there that it could hang on. */
export function hangAnew(state: LessonState, loose: Loose): Edit[] | null {
  const here = anchorAtCaret(state)
  if (!here) return null
  const put: Edit[] = here.marks.length > 0 ? [{ name: 'placeMarks', marks: here.marks }] : []
  switch (loose.kind) {
    case 'sound':
      return [...put, { name: 'setSound', sound: { ...loose.cue, anchor: here.anchor } }]
    case 'nudge':
      return [...put, { name: 'setNudges', nudges: [{ ...loose.nudge, anchor: here.anchor }] }]
    case 'bed': {
      const { offset: _, ...begins } = here.anchor
      return [...put, { name: 'setBed', cue: { ...loose.cue, begins } }]
    }
    case 'bed-end':
      return state.caret && [{ name: 'setBed', cue: { ...loose.cue, last: state.caret.step } }]
    default: {
      const mark = markAtCaret(state)
      if (!mark) return null
      const marked: Edit = { name: 'placeMarks', marks: [mark] }
      if (loose.kind === 'picture')
        return [
          marked,
          { name: 'changePicture', step: loose.step.id, id: loose.id, picture: loose.picture, mark: mark.id },
        ]
      if (loose.kind === 'layer')
        return [marked, { name: 'setLayer', step: loose.step.id, layer: { ...loose.layer, from: mark.id } }]
      if (loose.kind === 'layer-end')
        return [marked, { name: 'setLayer', step: loose.step.id, layer: { ...loose.layer, to: mark.id } }]
      // A pin can only be held while its recording is seen.
      if (state.caret?.step !== loose.step.id) return null
      return [
        marked,
        ...withPins(loose.step, (pins) => pins.map((pin) => (pin.id === loose.id ? { ...pin, mark: mark.id } : pin))),
      ]
    }
  }
}

export function takeOut(loose: Loose): Edit[] {
  switch (loose.kind) {
    case 'sound':
      return [{ name: 'removeSounds', sounds: [loose.id] }]
    case 'nudge':
      return [{ name: 'removeNudges', nudges: [loose.id] }]
    case 'bed':
      return [{ name: 'removeBed', cue: loose.id }]
    case 'bed-end':
      return [{ name: 'setBed', cue: { ...loose.cue, last: null } }]
    case 'layer-end':
      return [{ name: 'setLayer', step: loose.step.id, layer: { ...loose.layer, to: null } }]
    case 'picture':
      return [{ name: 'removePicture', step: loose.step.id, id: loose.id }]
    case 'layer':
      return [{ name: 'removeLayer', step: loose.step.id, id: loose.id }]
    case 'pin':
      return withPins(loose.step, (pins) => pins.filter(({ id }) => id !== loose.id))
  }
}

type Pins = Extract<Picture, { kind: 'recording' }>['pins']

/** The edits that change the pins of a step's recordings. */
function withPins(step: Step, change: (pins: Pins) => Pins): Edit[] {
  const changed = (picture: Picture): Picture =>
    picture.kind === 'recording' ? { ...picture, pins: change(picture.pins) } : picture
  const own: Edit[] =
    step.picture.kind === 'recording' ? [{ name: 'setPicture', step: step.id, picture: changed(step.picture) }] : []
  const further = step.more
    .filter(({ picture }) => picture.kind === 'recording')
    .map(({ id, picture, mark }): Edit => ({
      name: 'changePicture',
      step: step.id,
      id,
      picture: changed(picture),
      mark,
    }))
  return [...own, ...further]
}

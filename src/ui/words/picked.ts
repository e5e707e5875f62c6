import type { Lesson } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import type { Loose } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { timelineOf, type LessonState, type Picked, type WordPlace } from '../lesson/lessonStore'
import { wordAtMark } from './anchors'
import { moveCaret } from './caret'
import { hangAnew } from './hang'

/** What can be picked on the sheet by its tab, and moved along the words: sounds, further pictures, music. */

/** The same things that can come loose, and are hung anew in the same way. */
type Thing = Extract<Loose, { kind: Picked['kind'] }>

/** What is picked; null where nothing is, or it is gone. */
export function thingPicked(lesson: Lesson, picked: Picked | null): Thing | null {
  const id = picked?.id
  switch (picked?.kind) {
    case 'sound': {
      const cue = lesson.sounds.find((one) => one.id === id)
      return cue ? { kind: 'sound', id: cue.id, cue } : null
    }
    case 'bed': {
      const cue = lesson.bedCues.find((one) => one.id === id)
      return cue ? { kind: 'bed', id: cue.id, cue } : null
    }
    case 'picture':
      for (const step of lesson.steps) {
        const further = step.more.find((one) => one.id === id)
        if (further) return { kind: 'picture', id: further.id, step, picture: further.picture }
      }
      return null
    case 'layer':
      for (const step of lesson.steps) {
        const layer = step.layers.find((one) => one.id === id)
        if (layer) return { kind: 'layer', id: layer.id, step, layer }
      }
      return null
    default:
      return null
  }
}

/** The edits that hang it on a word; a sentence where it can't hang there. */
export function hangOn(state: LessonState, thing: Thing, place: WordPlace): Edit[] | string {
  if (thing.kind === 'picture' && (place.step !== thing.step.id || place.word === 0))
    return say('words.aFurtherPictureChanges')
  if (thing.kind === 'layer') return hangLayer(state, thing, place)
  // Music at the first word of a step begins with the step.
  if (thing.kind === 'bed' && place.word === 0)
    return [{ name: 'setBed', cue: { ...thing.cue, begins: { kind: 'step', step: place.step } } }]
  return hangAnew({ ...state, caret: place }, thing) ?? say('words.nothingIsSaidThere')
}

/** A layer begins with a word of its own step, or with the step. */
function hangLayer(state: LessonState, { step, layer, ...thing }: Extract<Thing, { kind: 'layer' }>, place: WordPlace) {
  if (place.step !== step.id) return say('words.itLiesOverThe')
  if (place.word === 0) return [{ name: 'setLayer', step: step.id, layer: { ...layer, from: null } } as const]
  return hangAnew({ ...state, caret: place }, { ...thing, step, layer }) ?? say('words.nothingIsSaidThere')
}

/** One push of an arrow key moves a sound by this much. */
const MOMENT: Seconds = 0.1

/** A moment or a word earlier or later; only sounds stand between words. A sentence where it can't go there. */
export function moveThing(state: LessonState, thing: Thing, by: 1 | -1, unit: 'moment' | 'word'): Edit[] | string {
  if (thing.kind === 'sound' && unit === 'moment') {
    const { anchor } = thing.cue
    const offset = Math.round((anchor.offset + by * MOMENT) * 1000) / 1000
    return [{ name: 'setSound', sound: { ...thing.cue, anchor: { ...anchor, offset } } }]
  }
  const now = placeOf(state, thing)
  const next = now && moveCaret({ ...state, caret: now }, by)
  if (!next) return say('words.thereIsNoWord')
  return hangOn(state, thing, next)
}

function placeOf(state: LessonState, thing: Thing): WordPlace | null {
  const at = (mark: string | undefined): WordPlace | null => {
    const word = mark === undefined ? null : wordAtMark(state, mark)
    return word && { step: word.step, word: Math.max(0, word.word) }
  }
  if (thing.kind === 'layer') return thing.layer.from === null ? { step: thing.step.id, word: 0 } : at(thing.layer.from)
  if (thing.kind === 'picture') return at(thing.step.more.find(({ id }) => id === thing.id)?.mark)
  const place = thing.kind === 'sound' ? thing.cue.anchor : thing.cue.begins
  if (place.kind === 'sound') return null
  return place.kind === 'mark' ? at(place.mark) : { step: place.step, word: 0 }
}

/** The next thing that can be picked, in lesson time: after the one that is, or from the caret's step on. */
export function nextPicked(state: LessonState): Picked | null {
  const { lesson } = state.history
  const timeline = timelineOf(lesson)
  const all: { picked: Picked; start: Seconds }[] = [
    ...timeline.sounds.map(({ cue, start }) => ({ picked: { kind: 'sound' as const, id: cue.id }, start })),
    ...timeline.beds.map(({ cue, start }) => ({ picked: { kind: 'bed' as const, id: cue.id }, start })),
    ...timeline.pictures.flatMap(({ further, start }) =>
      further ? [{ picked: { kind: 'picture' as const, id: further }, start }] : [],
    ),
    ...timeline.layers.map(({ layer, start }) => ({ picked: { kind: 'layer' as const, id: layer.id }, start })),
  ].sort((a, b) => a.start - b.start)
  const from = timeline.steps.find(({ step }) => step.id === state.caret?.step)?.start ?? 0
  const now = all.findIndex(({ picked }) => picked.id === state.picked?.id)
  const next = now >= 0 ? all[now + 1] : all.find(({ start }) => start >= from - 1e-6)
  return (next ?? all[0])?.picked ?? null
}

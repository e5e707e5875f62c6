import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import type { BedCue, Lesson, LessonLengths, Nudge, Picture, Pocket, SoundCue, TrackName } from './document'
import { stepOf } from './lookUp'

/** What can be done to sounds, music, levels and further pictures. */
export type SoundEdit =
  | { name: 'addSounds'; sounds: SoundCue[] }
  /** Any of its settings. */
  | { name: 'setSound'; sound: SoundCue }
  | { name: 'removeSounds'; sounds: string[] }
  | { name: 'setBed'; cue: BedCue }
  /** Points of the hand-made line: put in, moved, or given another gain. */
  | { name: 'setNudges'; nudges: Nudge[] }
  | { name: 'removeNudges'; nudges: string[] }
  | { name: 'setPocket'; pocket: Pocket }
  | { name: 'setEvenStrokes'; on: boolean }
  | { name: 'setTrack'; track: TrackName; gain: number; muted: boolean }
  | { name: 'setLengths'; lengths: LessonLengths }
  | { name: 'addPicture'; step: string; id: string; picture: Picture; mark: string }
  | { name: 'changePicture'; step: string; id: string; picture: Picture; mark: string }
  | { name: 'removePicture'; step: string; id: string }

export function changeSounds(lesson: Lesson, edit: SoundEdit): void {
  switch (edit.name) {
    case 'addSounds':
      lesson.sounds.push(...edit.sounds)
      return
    case 'setSound':
      lesson.sounds[indexOf(lesson.sounds, edit.sound.id, say('edits.thisSound'))] = edit.sound
      return
    case 'removeSounds':
      for (const id of edit.sounds) lesson.sounds.splice(indexOf(lesson.sounds, id, say('edits.thisSound')), 1)
      return
    case 'setBed':
      return setBed(lesson, edit.cue)
    case 'setNudges':
      return setNudges(lesson, edit.nudges)
    case 'removeNudges':
      for (const id of edit.nudges) lesson.nudges.splice(indexOf(lesson.nudges, id, say('edits.thisPoint')), 1)
      return
    case 'setPocket':
      lesson.pocket = edit.pocket
      return
    case 'setEvenStrokes':
      lesson.evenStrokes = edit.on
      return
    case 'setTrack':
      lesson.tracks[edit.track] = { gain: edit.gain, muted: edit.muted }
      return
    case 'setLengths':
      lesson.lengths = edit.lengths
      return
    case 'addPicture':
      stepOf(lesson, edit.step).more.push({ id: edit.id, picture: edit.picture, mark: edit.mark })
      return
    case 'changePicture': {
      const { more } = stepOf(lesson, edit.step)
      more[indexOf(more, edit.id, say('edits.thisPicture'))] = { id: edit.id, picture: edit.picture, mark: edit.mark }
      return
    }
    case 'removePicture': {
      const { more } = stepOf(lesson, edit.step)
      more.splice(indexOf(more, edit.id, say('edits.thisPicture')), 1)
      return
    }
  }
}

/** Two pieces can't start with the same step: one that did begins where this one began until now. */
export function setBed(lesson: Lesson, cue: BedCue): void {
  const { begins } = cue
  const index = indexOf(lesson.bedCues, cue.id, say('edits.thisMusic'))
  const before = lesson.bedCues[index]!.begins
  lesson.bedCues[index] = cue
  if (begins.kind !== 'step') return
  stepOf(lesson, begins.step)
  for (const other of lesson.bedCues)
    if (other.id !== cue.id && other.begins.kind === 'step' && other.begins.step === begins.step) other.begins = before
}

function setNudges(lesson: Lesson, nudges: readonly Nudge[]): void {
  for (const nudge of nudges) {
    if (nudge.anchor.kind === 'step') stepOf(lesson, nudge.anchor.step)
    const index = lesson.nudges.findIndex(({ id }) => id === nudge.id)
    if (index >= 0) lesson.nudges[index] = nudge
    else lesson.nudges.push(nudge)
  }
}

function indexOf(list: readonly { id: string }[], id: string, what: string): number {
  const index = list.findIndex((one) => one.id === id)
  if (index < 0) throw new UserError(say('edits.gone', { what }))
  return index
}

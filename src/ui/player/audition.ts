import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { say } from '@/messages/say'
import type { Player } from './player'
import type { LessonStore } from '../lesson/lessonStore'

/** Something said, to be listened to by itself: a part of a take. */
export interface Audition {
  id: string
  media: string
  from: number
  to: number
}

/**
 * Plays a part of a take by itself, at the lesson's loudness, cleaned as it is in the lesson. While one plays already,
 * the other goes on at the same distance from its beginning, so that two tries can be compared.
 */
export function audition(store: LessonStore, player: Player, part: Audition): void {
  const { audition: before, placeBefore } = store.getState()
  const wasPlaying = player.isPlaying() && before !== null
  store.setState({ placeBefore: before ? placeBefore : player.position() })
  store.setState({ audition: lessonOf(part, store.getState().history.lesson) })
  // The plan follows in a moment; playing begins with it.
  if (!wasPlaying) setTimeout(() => void player.play(0), 60)
}

/** Plays a part once, and goes back to the lesson when it is over or stopped. */
export function listenOnce(store: LessonStore, player: Player, part: Audition): void {
  audition(store, player, part)
  let wasPlaying = false
  const stop = player.subscribe(() => {
    if (player.isPlaying()) wasPlaying = true
    else if (wasPlaying) {
      stop()
      endAudition(store, player)
    }
  })
}

/** Back to the lesson. */
export function endAudition(store: LessonStore, player: Player): void {
  if (store.getState().audition === null) return
  player.pause()
  store.setState({ audition: null })
  // One goes on where one was before one listened.
  player.seek(store.getState().placeBefore)
}

function lessonOf({ media, from, to }: Audition, { targets }: Lesson): Lesson {
  const step = newStep('audition', '', { kind: 'card', lines: [say('parts.aTake')] })
  const passages = [{ id: 'audition', media, from, to, pause: 0 }]
  return {
    ...emptyLesson(''),
    targets,
    steps: [{ ...step, length: { kind: 'voice', atLeast: 0 }, passages }],
  }
}

/** Which part is being listened to. */
export const auditioned = (lesson: Lesson | null): Omit<Audition, 'id'> | null => lesson?.steps[0]?.passages[0] ?? null

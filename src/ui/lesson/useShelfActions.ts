'use client'

import { nanoid } from 'nanoid'
import type { ShelfItem } from '@/core/lesson/document'
import { newBed } from '@/core/lesson/newParts'
import type { Edit } from '@/core/lesson/edits'
import { picturesOf, shownPicturesOf, stepOfPicture } from '@/core/lesson/fromFile'
import type { MediaInfo } from '@/core/messages/media'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from './context'
import type { LessonState } from './lessonStore'

export type ShelfAction = {
  key: string
  label: string
  danger?: boolean
  onClick: () => void
}

/** What can be done with a file of the shelf, as menu items. */
export function useShelfActions(): (item: ShelfItem) => ShelfAction[] {
  const { store } = useDesk()
  const media = useLessonState((state) => state.media)
  const number = useLessonState(
    ({ history, selected }) => history.lesson.steps.findIndex(({ id }) => id === selected[0]) + 1,
  )
  const apply = (edits: Edit[]) => edits.length > 0 && store.getState().edit(...edits)
  return (item) => {
    const info = media.get(item.media)
    const state = store.getState()
    const items: ShelfAction[] = []
    if (info && picturesOf(info).length > 0) {
      items.push({
        key: 'steps',
        label: number > 0 ? say('lesson.addAsStepsAfter', { number }) : say('lesson.addAsSteps'),
        onClick: () => apply(asSteps(state, [info])),
      })
    }
    if (info && info.channels > 0 && number > 0) {
      items.push(
        {
          key: 'narration',
          label: say('lesson.narrationOfStep', { number }),
          onClick: () => apply(asNarration(state, info)),
        },
        { key: 'music', label: say('lesson.musicFromStepOn', { number }), onClick: () => apply(asMusic(state, info)) },
      )
    }
    return [
      ...items,
      {
        key: 'off',
        label: say('lesson.takeOffTheShelf'),
        danger: true,
        onClick: () => apply([{ name: 'takeOffShelf', media: item.media }]),
      },
    ]
  }
}

/** A step for each page or recording, after the selected steps. */
export function asSteps(
  { history: { lesson }, selected }: Pick<LessonState, 'history' | 'selected'>,
  infos: readonly MediaInfo[],
): Edit[] {
  const last = lesson.steps.findLastIndex(({ id }) => selected.includes(id))
  const before = last < 0 ? null : (lesson.steps[last + 1]?.id ?? null)
  const steps = infos.flatMap((info) => shownPicturesOf(info).map((one) => stepOfPicture(nanoid(10), one)))
  return steps.length > 0 ? [{ name: 'addSteps', before, steps }] : []
}

/** The whole sound, after what is said in the selected step so far. */
export function asNarration({ history: { lesson }, selected }: LessonState, info: MediaInfo): Edit[] {
  const step = lesson.steps.find(({ id }) => id === selected[0])
  if (!step) return []
  const passage = { id: nanoid(10), media: info.hash, from: 0, to: info.length!, pause: 0 }
  return [{ name: 'placePassage', step: step.id, passage, index: step.passages.length }]
}

export function asMusic({ selected }: LessonState, info: MediaInfo): Edit[] {
  const [step] = selected
  return step ? [{ name: 'addBed', cue: newBed(nanoid(10), info.hash, step) }] : []
}

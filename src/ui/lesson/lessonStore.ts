import { createStore, type StoreApi } from 'zustand'
import {
  continueEdit,
  doEdits,
  openHistory,
  rebase,
  redo,
  settle,
  undo,
  type ContinuedEdit,
  type History,
} from '@/core/lesson/history'
import type { Finding } from '@/core/check/finding'
import type { Lesson } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { layoutLesson } from '@/core/lesson/layout'
import type { Timeline } from '@/core/lesson/timeline'
import type { MediaInfo } from '@/core/messages/media'
import type { Analysis } from '@/core/measure/analysis'
import type { Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import type { MixPicture } from '@/workers/protocol'
import type { Alignments } from '@/core/narration/words/alignments'
import type { Cleaning, Trouble } from './derived'
import { settled } from './settle'

/** Ways to mix the bed that can be compared: at one level, ridden, ridden and with a pocket. */
export type Compared = 'plain' | 'ridden' | 'pocket'

/** A place between two words of a step: before word number `word` (or phrase, where nothing is written). */
export interface WordPlace {
  step: string
  word: number
}

export interface Caret extends WordPlace {
  /** The other end of a selection of words, in this step or another. */
  anchor?: WordPlace
}

/** A thing on the sheet that is chosen by itself, beside steps and words. */
export interface Picked {
  kind: 'sound' | 'picture' | 'layer' | 'bed'
  id: string
}

/** Where one is in a lesson. */
type Place = Pick<LessonState, 'selected' | 'caret'>

/** All that a page knows of one lesson. What can be derived is derived where it is needed. */
export interface LessonState {
  history: History
  media: ReadonlyMap<string, MediaInfo>
  /** Of the sounds that are loaded so far. */
  analyses: ReadonlyMap<string, Analysis>
  /** The mix of the lesson as it was a moment ago; null until the first plan is there. */
  mix: MixPicture | null
  /** What was found in its words and captions a moment ago. */
  wordFindings: readonly Finding[]
  selected: readonly string[]
  caret: Caret | null
  picked: Picked | null
  /** Words found in takes, see useAlignments.ts. */
  alignments: Alignments
  /** How many takes are still to be looked through for their words. */
  aligning: number
  /** Cleaned voices by take and setting, see useCleaning.ts. */
  cleanings: ReadonlyMap<string, Cleaning>
  /** What went wrong behind the page. */
  troubles: ReadonlyMap<string, Trouble>
  /** Played in place of the lesson while one listens to a take. */
  audition: Lesson | null
  /** Where the lesson was when the audition began. */
  placeBefore: Seconds
  /** For comparing: voices are heard as they were recorded. */
  hearsRaw: boolean
  /** For comparing: how the bed is mixed, instead of as the lesson says. */
  compared: Compared | null

  /** Does one edit, or several as one step of undo; false and a message where it can't be done. */
  edit(...edits: readonly Edit[]): boolean
  /** A text while it is typed, a value while it is moved: all of it is one step of undo. */
  continueEdit(edit: ContinuedEdit, isFirst: boolean): void
  /** What follows from the last change by itself, and is undone with it. */
  settle(edit: Edit): void
  /** The lesson and all that can be undone, with something added that was done elsewhere. */
  rebase(add: (lesson: Lesson) => Lesson | null): void
  undo(): void
  redo(): void
  select(steps: readonly string[], caret?: Caret | null): void
  /** Until steps or words are selected again. */
  pick(picked: Picked | null): void
  addMedia(infos: readonly MediaInfo[]): void
}

export type LessonStore = StoreApi<LessonState>

export function createLessonStore(
  lesson: Lesson,
  infos: readonly MediaInfo[],
  refuse: (sentence: string) => void,
): LessonStore {
  const first = lesson.steps[0]?.id
  return createStore<LessonState>()((set, get) => {
    const lengthOf = (media: string) => get().media.get(media)?.length
    /** Where one was in a lesson when it was left by a change, by undo or redo: coming back, one is there again. */
    const places = new WeakMap<Lesson, Place>()
    /** All changes of the lesson; false and a message where one can't be made. */
    const change = (by: (history: History) => History): boolean => {
      try {
        const before = get()
        const history = by(before.history)
        const { selected, caret } = before
        places.set(before.history.lesson, { selected, caret })
        set({ history, ...(places.get(history.lesson) ?? keptPlace(before, history.lesson)) })
        return true
      } catch (error) {
        if (!(error instanceof UserError)) throw error
        refuse(error.message)
        return false
      }
    }
    return {
      history: openHistory(lesson),
      media: new Map(infos.map((info) => [info.hash, info])),
      analyses: new Map(),
      mix: null,
      wordFindings: [],
      selected: first ? [first] : [],
      caret: first ? { step: first, word: 0 } : null,
      picked: null,
      alignments: new Map(),
      aligning: 0,
      cleanings: new Map(),
      troubles: new Map(),
      audition: null,
      placeBefore: 0,
      hearsRaw: false,
      compared: null,

      edit: (...edits) => change((now) => doEdits(now, edits, lengthOf)),
      continueEdit: (edit, isFirst) => void change((now) => continueEdit(now, edit, isFirst)),
      settle: (edit) => void change((now) => settle(now, edit)),
      rebase: (add) => void change((now) => rebase(now, add)),
      undo: () => void change(undo),
      redo: () => void change(redo),
      select: (selected, caret) => set({ selected, picked: null, ...(caret !== undefined && { caret }) }),
      pick: (picked) => set({ picked }),
      addMedia: (added) =>
        set({ media: new Map([...get().media, ...added.map((info) => [info.hash, info] as const)]) }),
    }
  })
}

/** Caret and selection where their steps are still there; otherwise at the step that stands there now. */
function keptPlace({ history, selected, caret }: LessonState, { steps }: Lesson): Place | null {
  const isThere = (id: string) => steps.some((step) => step.id === id)
  const isCaretThere = !caret || (isThere(caret.step) && (!caret.anchor || isThere(caret.anchor.step)))
  if (isCaretThere && selected.every(isThere)) return null
  const index = history.lesson.steps.findIndex(({ id }) => id === (caret?.step ?? selected[0]))
  const heir = steps[Math.min(Math.max(0, index), steps.length - 1)]
  const left = selected.filter(isThere)
  return {
    caret: isCaretThere ? caret : heir ? { step: heir.id, word: 0 } : null,
    selected: left.length > 0 || !heir ? left : [heir.id],
  }
}

const layouts = new WeakMap<Lesson, Timeline>()
let last: Timeline | null = null
/** The timeline of a lesson, computed once for each state of it. */
export function timelineOf(lesson: Lesson): Timeline {
  let timeline = layouts.get(lesson)
  if (!timeline) {
    timeline = last = settled(layoutLesson(lesson), last)
    layouts.set(lesson, timeline)
  }
  return timeline
}

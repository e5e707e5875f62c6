import type { LessonState, LessonStore, Caret } from '../../lesson/lessonStore'
import { caretTime } from '../../words/caret'
import { inOrder } from '../../words/inOrder'
import type { Player } from '../../player/player'

/** What the actions of the sheet work with. */
export interface ActionContext {
  store: LessonStore
  player: Player
  state(): LessonState
  /** Shows a sentence for a while. */
  tell(sentence: string): void
  /** Caret, selection and playhead go there. */
  go(caret: Caret | null): void
  /** The selected steps, in the order of the lesson. */
  chosen(): string[]
}

export function actionContext(store: LessonStore, player: Player, tell: (sentence: string) => void): ActionContext {
  const state = store.getState
  return {
    store,
    player,
    state,
    tell,
    go(caret) {
      if (!caret) return
      state().select([caret.step], caret)
      player.seek(caretTime(state(), caret))
    },
    chosen: () =>
      inOrder(
        state().history.lesson.steps.map(({ id }) => id),
        state().selected,
      ),
  }
}

import { timelineOf, type Caret } from '../../lesson/lessonStore'
import { extendCaret, moveByStep, moveCaret, type CaretUnit } from '../../words/caret'
import type { SheetActions } from './actions'
import type { ActionContext } from './context'
import { pushPicked } from './thingActions'

/** Listening, going about, and selecting. */
export function goActions(context: ActionContext) {
  const { player, state, go } = context

  /** What is picked goes in place of the caret. */
  const move = (by: 1 | -1, unit?: CaretUnit) => {
    if (!pushPicked(context, by, 'word')) go(moveCaret(state(), by, unit))
  }
  const extendWords = (caret: Caret | null) => {
    if (caret) state().select([caret.step], caret)
  }
  const goToStep = (index: number) => {
    const step = state().history.lesson.steps.at(index)
    if (step) go({ step: step.id, word: 0 })
  }
  /** The selection grows or shrinks at the end where the caret stands. */
  const extend = (by: 1 | -1) => {
    const { caret, selected } = state()
    const next = moveByStep(state(), by)
    if (!caret || !next) return
    const shrinks = selected.includes(next.step)
    state().select(shrinks ? selected.filter((id) => id !== caret.step) : [...selected, next.step], next)
  }

  return {
    play: () => (player.isPlaying() ? player.pause() : void player.playOn()),
    playStep: () => {
      const span = timelineOf(state().history.lesson).steps.find(({ step }) => step.id === state().caret?.step)
      if (span) void player.play(span.start, span.end)
    },
    wordBack: () => move(-1),
    wordOn: () => move(1),
    phraseBack: () => move(-1, 'phrase'),
    phraseOn: () => move(1, 'phrase'),
    sentenceBack: () => move(-1, 'sentence'),
    sentenceOn: () => move(1, 'sentence'),
    selectBack: () => extendWords(extendCaret(state(), -1)),
    selectOn: () => extendWords(extendCaret(state(), 1)),
    selectPhraseBack: () => extendWords(extendCaret(state(), -1, 'phrase')),
    selectPhraseOn: () => extendWords(extendCaret(state(), 1, 'phrase')),
    stepBack: () => go(moveByStep(state(), -1)),
    stepOn: () => go(moveByStep(state(), 1)),
    selectStepBack: () => extend(-1),
    selectStepOn: () => extend(1),
    selectAll: () => state().select(state().history.lesson.steps.map(({ id }) => id)),
    firstStep: () => goToStep(0),
    lastStep: () => goToStep(-1),
  } satisfies Partial<SheetActions>
}

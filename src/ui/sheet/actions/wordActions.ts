import { say } from '@/messages/say'
import {
  copySelected,
  cutSelected,
  moveByStep,
  pasteAtCaret,
  pauseAtCaret,
  selectedWords,
  wordsOfStep,
} from '../../words/caret'
import {
  pasteLayers,
  pasteSounds,
  pasteSteps,
  readClipboard,
  stepsClip,
  wordsClip,
  writeClipboard,
  type Clip,
} from '../../words/clipboard'
import { useSheetView } from '../score/view'
import type { SheetActions } from './actions'
import type { ActionContext } from './context'
import { copyPicked, removePicked } from './thingActions'

/** One push makes a pause longer or shorter by this much, in seconds. */
const PAUSE = 0.25

/** What can be done with words; where none are selected, cutting, copying and deleting are about steps. */
export function wordActions(context: ActionContext) {
  const { state, tell, go, chosen } = context

  /** Words where some are selected, otherwise the selected steps; false where nothing is. */
  const copy = (): boolean => {
    if (copyPicked(context)) return true
    const words = copySelected(state())
    const clip = words ? wordsClip(state(), words) : stepsClip(state(), chosen())
    if (!clip) return false
    writeClipboard(clip)
    return true
  }
  const removeWords = () => {
    const [first] = selectedWords(state())
    if (first && state().edit(...cutSelected(state()))) go({ step: first.step.id, word: first.from })
  }
  const removeSteps = () => {
    const steps = chosen()
    if (steps.length === 0) return
    const at = state().history.lesson.steps.findIndex(({ id }) => id === steps[0])
    if (!state().edit({ name: 'deleteSteps', steps })) return
    const left = state().history.lesson.steps
    const next = left[Math.min(at, left.length - 1)]
    state().select(next ? [next.id] : [], next ? { step: next.id, word: 0 } : null)
  }
  const remove = () => {
    if (removePicked(context)) return
    if (selectedWords(state()).length > 0) removeWords()
    else removeSteps()
  }
  const layOver = (clip: Extract<Clip, { kind: 'layers' }>) => {
    const [step] = chosen()
    if (!step) return tell(say('actions.chooseTheStepFirst'))
    const edits = pasteLayers(state(), clip, step)
    const put = edits.find((edit) => edit.name === 'addLayers')
    if (state().edit(...edits)) state().pick({ kind: 'layer', id: put!.layers[0]!.id })
  }
  const pause = (by: number) => {
    const edit = pauseAtCaret(state(), by)
    if (typeof edit === 'string') tell(edit)
    else state().edit(edit)
  }

  return {
    cut: () => {
      if (copy()) remove()
    },
    copy: () => void copy(),
    paste: () => {
      const clip = readClipboard()
      if (!clip) return tell(say('actions.nothingHasBeenCopied'))
      state().addMedia(clip.media)
      if (clip.kind === 'words') {
        const edit = pasteAtCaret(state(), clip.words, clip)
        if (edit) state().edit(edit)
        return
      }
      if (clip.kind === 'layers') return layOver(clip)
      if (clip.kind === 'sounds') return void state().edit(...pasteSounds(state(), clip))
      const [edit, ...hung] = pasteSteps(state(), clip)
      if (state().edit(edit, ...hung))
        state().select(
          edit.steps.map(({ id }) => id),
          { step: edit.steps[0]!.id, word: 0 },
        )
    },
    remove,
    correct: () => {
      const { caret } = state()
      const word = caret && wordsOfStep(state(), caret.step)[caret.word]
      if (!caret || !word?.text) return tell(say('actions.putTheCaretBefore'))
      useSheetView.getState().correct({ step: caret.step, word: caret.word })
    },
    pauseLonger: () => pause(PAUSE),
    pauseShorter: () => pause(-PAUSE),
    join: () => {
      const { caret } = state()
      if (!caret) return
      if (caret.word > 0) return tell(say('actions.backspaceJoinsAtThe'))
      const before = moveByStep(state(), -1, 'phrase')
      if (state().edit({ name: 'joinStep', step: caret.step })) go(before)
    },
  } satisfies Partial<SheetActions>
}

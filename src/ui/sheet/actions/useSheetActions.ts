'use client'

import { App } from 'antd'
import { nanoid } from 'nanoid'
import { useRouter } from 'next/navigation'
import { clamp } from '@/core/units'
import { useKeys } from '../../keys'
import { useDesk } from '../../lesson/context'
import { timelineOf, type Caret } from '../../lesson/lessonStore'
import {
  breakAtCaret,
  breakAtTime,
  caretTime,
  copySelected,
  cutSelected,
  extendCaret,
  moveByStep,
  moveCaret,
  pasteAtCaret,
  selectedWords,
} from '../../words/caret'
import { pasteEdit, pasteSounds, readClipboard, stepsClip, wordsClip, writeClipboard } from '../../words/clipboard'
import { ACTIONS, OF_THE_LESSON, type SheetActions } from './actions'
import { inOrder } from '../../words/inOrder'
import { openRowMenu } from './RowMenu'
import { SCALES, useSheetView, WAVE_HEIGHTS } from '../score/view'

/** What is shown over the sheet. */
export interface SheetDialogs {
  showHelp(): void
  showFind(): void
  showCommands(): void
}

/** What the actions of the sheet do (actions.ts); their keys do it, too. */
export function useSheetActions({ showHelp, showFind, showCommands }: SheetDialogs): SheetActions {
  const router = useRouter()
  const { id: lessonId, store, player } = useDesk()
  const { message } = App.useApp()
  const state = store.getState

  const go = (caret: Caret | null) => {
    if (!caret) return
    state().select([caret.step], caret)
    player.seek(caretTime(state(), caret))
  }
  const chosen = () =>
    inOrder(
      state().history.lesson.steps.map(({ id }) => id),
      state().selected,
    )

  const actions: SheetActions = {
    play: () => (player.isPlaying() ? player.pause() : void player.playOn()),
    playStep: () => {
      const span = timelineOf(state().history.lesson).steps.find(({ step }) => step.id === state().caret?.step)
      if (span) void player.play(span.start, span.end)
    },
    wordBack: () => go(moveCaret(state(), -1)),
    wordOn: () => go(moveCaret(state(), 1)),
    phraseBack: () => go(moveCaret(state(), -1, 'phrase')),
    phraseOn: () => go(moveCaret(state(), 1, 'phrase')),
    sentenceBack: () => go(moveCaret(state(), -1, 'sentence')),
    sentenceOn: () => go(moveCaret(state(), 1, 'sentence')),
    selectBack: () => extendWords(extendCaret(state(), -1)),
    selectOn: () => extendWords(extendCaret(state(), 1)),
    selectPhraseBack: () => extendWords(extendCaret(state(), -1, 'phrase')),
    selectPhraseOn: () => extendWords(extendCaret(state(), 1, 'phrase')),
    stepBack: () => go(moveByStep(state(), -1)),
    stepOn: () => go(moveByStep(state(), 1)),
    selectStepBack: () => extend(-1),
    selectStepOn: () => extend(1),
    firstStep: () => goToStep(0),
    lastStep: () => goToStep(-1),
    breakHere: () => {
      const edit = breakAtCaret(state())
      if (typeof edit === 'string') return void message.info(edit)
      if (!state().edit(edit)) return
      const { lesson } = state().history
      const next = lesson.steps[lesson.steps.findIndex(({ id }) => id === state().caret?.step) + 1]
      if (next) go({ step: next.id, word: 0 })
    },
    breakAtPlayhead: () => {
      const edit = breakAtTime(state(), player.position())
      if (typeof edit === 'string') return void message.info(edit)
      state().edit(edit)
    },
    cut: () => {
      if (copy()) remove()
    },
    copy: () => void copy(),
    paste,
    find: showFind,
    join: () => {
      const caret = state().caret
      if (!caret) return
      if (selectedWords(state()).length > 0) return removeWords()
      if (caret.word > 0) return void message.info('Backspace joins at the start of a step. Go there with ← first.')
      const before = moveByStep(state(), -1, 'phrase')
      if (state().edit({ name: 'joinStep', step: caret.step })) go(before)
    },
    moveUp: () => moveSelected(-1),
    moveDown: () => moveSelected(1),
    duplicate: () => {
      const { lesson } = state().history
      const copies = chosen().map((of) => ({
        of,
        id: nanoid(10),
        passages: lesson.steps.find(({ id }) => id === of)!.passages.map(() => nanoid(10)),
      }))
      if (copies.length > 0 && state().edit({ name: 'duplicateSteps', copies })) {
        state().select(
          copies.map(({ id }) => id),
          { step: copies[0]!.id, word: 0 },
        )
      }
    },
    selectAll: () => state().select(state().history.lesson.steps.map(({ id }) => id)),
    remove,
    larger: () => zoom(1.25),
    smaller: () => zoom(0.8),
    tallerWave: () => {
      const { waveHeight, setWaveHeight } = useSheetView.getState()
      setWaveHeight(WAVE_HEIGHTS[(WAVE_HEIGHTS.indexOf(waveHeight as 46) + 1) % WAVE_HEIGHTS.length]!)
    },
    undo: () => state().undo(),
    redo: () => state().redo(),
    musicSofter: () => changeClearance(CLEARANCE_STEP),
    musicLouder: () => changeClearance(-CLEARANCE_STEP),
    booth: () => router.push(`/lessons/${lessonId}/booth`),
    balance: () => router.push(`/lessons/${lessonId}/balance`),
    finish: () => router.push(`/lessons/${lessonId}/finish`),
    menu: () => openRowMenu(state().caret?.step),
    commands: showCommands,
    help: showHelp,
  }

  function extendWords(caret: Caret | null) {
    if (caret) state().select([caret.step], caret)
  }

  function remove() {
    if (selectedWords(state()).length > 0) removeWords()
    else removeSteps()
  }

  function removeWords() {
    const [first] = selectedWords(state())
    if (first && state().editTogether(cutSelected(state()))) go({ step: first.step.id, word: first.from })
  }

  function removeSteps() {
    const steps = chosen()
    if (steps.length === 0) return
    const at = state().history.lesson.steps.findIndex(({ id }) => id === steps[0])
    if (!state().edit({ name: 'deleteSteps', steps })) return
    const left = state().history.lesson.steps
    const next = left[Math.min(at, left.length - 1)]
    state().select(next ? [next.id] : [], next ? { step: next.id, word: 0 } : null)
  }

  /** Words where some are selected, otherwise the selected steps; false where nothing is. */
  function copy(): boolean {
    const words = copySelected(state())
    const clip = words ? wordsClip(state(), words) : stepsClip(state(), chosen())
    if (!clip) return false
    writeClipboard(clip)
    return true
  }

  function paste() {
    const clip = readClipboard()
    if (!clip) return void message.info('Nothing has been copied yet.')
    state().addMedia(clip.media)
    if (clip.kind === 'words') {
      const edit = pasteAtCaret(state(), clip.words, clip)
      if (edit) state().edit(edit)
      return
    }
    if (clip.kind === 'sounds') return void state().editTogether(pasteSounds(state(), clip))
    const edit = pasteEdit(state(), clip)
    if (state().edit(edit))
      state().select(
        edit.steps.map(({ id }) => id),
        { step: edit.steps[0]!.id, word: 0 },
      )
  }

  function goToStep(index: number) {
    const step = state().history.lesson.steps.at(index)
    if (step) go({ step: step.id, word: 0 })
  }

  /** The selection grows or shrinks at the end where the caret stands. */
  function extend(by: 1 | -1) {
    const { caret, selected } = state()
    const next = moveByStep(state(), by)
    if (!caret || !next) return
    const shrinks = selected.includes(next.step)
    state().select(shrinks ? selected.filter((id) => id !== caret.step) : [...selected, next.step], next)
  }

  function moveSelected(by: 1 | -1) {
    const steps = chosen()
    const all = state().history.lesson.steps.map(({ id }) => id)
    if (steps.length === 0) return
    const edge = by < 0 ? all.indexOf(steps[0]!) - 1 : all.indexOf(steps.at(-1)!) + 2
    if (edge < 0 || edge > all.length) return
    state().edit({ name: 'moveSteps', steps, before: all[edge] ?? null })
  }

  function zoom(by: number) {
    const { pixelsPerSecond, setScale } = useSheetView.getState()
    if (pixelsPerSecond * by >= SCALES.least / 2) setScale(pixelsPerSecond * by)
  }

  /** The music is further from the voice the quieter it is. */
  function changeClearance(by: number) {
    const { clearance } = state().history.lesson.targets
    const value = clamp(clearance + by, CLEARANCE.least, CLEARANCE.most)
    if (value === clearance) return void message.info('The music is as far from the voice as it can be.')
    if (state().edit({ name: 'setTarget', target: 'clearance', value }))
      void message.success(`The music stays ${value} LU under the voice now.`)
  }

  useKeys(byKeys(actions))
  return actions
}

const CLEARANCE_STEP = 2 // LU
const CLEARANCE = { least: 3, most: 40 }

const byKeys = (actions: SheetActions): Record<string, () => void> =>
  Object.fromEntries(
    ACTIONS.filter(({ id }) => !OF_THE_LESSON.includes(id)).flatMap(({ id, keys }) =>
      keys.map((chord) => [chord, actions[id]]),
    ),
  )

'use client'

import { App } from 'antd'
import { nanoid } from 'nanoid'
import { useKeys } from '../keys'
import { useDesk } from '../lesson/context'
import { timelineOf, type Caret } from '../lesson/lessonStore'
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
} from './caret'
import { pasteEdit, pasteSounds, readClipboard, stepsClip, wordsClip, writeClipboard } from './clipboard'
import { inOrder } from './Score'
import { SCALES, useSheetView, WAVE_HEIGHTS } from './view'

/** Keys of the sheet, as they are listed in the help; `KEYS` is the one place where both come from. */
export const KEYS: readonly { keys: string; shown: string; does: string }[] = [
  { keys: 'space', shown: 'Space', does: 'play, pause' },
  { keys: 'shift+space', shown: 'Shift Space', does: 'play this step' },
  { keys: 'left', shown: '← →', does: 'caret a word back or on' },
  { keys: 'mod+left', shown: 'Ctrl ← →', does: 'caret a phrase back or on' },
  { keys: 'alt+left', shown: 'Alt ← →', does: 'caret a sentence back or on' },
  { keys: 'shift+left', shown: 'Shift ← →', does: 'select words, also across steps (with Ctrl: phrases)' },
  { keys: 'up', shown: '↑', does: 'caret a step back' },
  { keys: 'down', shown: '↓', does: 'caret a step on' },
  { keys: 'shift+up', shown: 'Shift ↑ ↓', does: 'select more steps' },
  { keys: 'home', shown: 'Home', does: 'to the first step' },
  { keys: 'end', shown: 'End', does: 'to the last step' },
  { keys: 'enter', shown: 'Enter', does: 'the next step starts at the caret' },
  { keys: 's', shown: 'S', does: 'the next step starts at the playhead, also while playing' },
  { keys: 'backspace', shown: 'Backspace', does: "at a step's start: join it with the step before" },
  { keys: 'mod+x', shown: 'Ctrl X, C, V', does: 'cut, copy, paste words, steps or sounds, also in another lesson' },
  { keys: 'mod+f', shown: 'Ctrl F', does: 'find words, or go to a step by its number' },
  { keys: 'alt+up', shown: 'Alt ↑', does: 'move the selected steps up' },
  { keys: 'alt+down', shown: 'Alt ↓', does: 'move the selected steps down' },
  { keys: 'mod+d', shown: 'Ctrl D', does: 'duplicate the selected steps' },
  { keys: 'mod+a', shown: 'Ctrl A', does: 'select all steps' },
  { keys: 'delete', shown: 'Delete', does: 'delete the selected words or steps' },
  { keys: 'mod+z', shown: 'Ctrl Z', does: 'undo' },
  { keys: 'mod+y', shown: 'Ctrl Y', does: 'do again' },
  { keys: '+', shown: '+', does: 'larger scale (also Ctrl and wheel)' },
  { keys: '-', shown: '−', does: 'smaller scale' },
  { keys: 'w', shown: 'W', does: 'taller wave, round again' },
  { keys: '?', shown: '?', does: 'this list' },
]

export function useSheetKeys(showHelp: () => void, showFind: () => void): void {
  const { store, player } = useDesk()
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

  const actions: Record<string, () => void> = {
    space: () => (player.isPlaying() ? player.pause() : void player.playOn()),
    'shift+space': () => {
      const span = timelineOf(state().history.lesson).steps.find(({ step }) => step.id === state().caret?.step)
      if (span) void player.play(span.start, span.end)
    },
    left: () => go(moveCaret(state(), -1)),
    right: () => go(moveCaret(state(), 1)),
    'mod+left': () => go(moveCaret(state(), -1, 'phrase')),
    'mod+right': () => go(moveCaret(state(), 1, 'phrase')),
    'alt+left': () => go(moveCaret(state(), -1, 'sentence')),
    'alt+right': () => go(moveCaret(state(), 1, 'sentence')),
    'shift+left': () => extendWords(extendCaret(state(), -1)),
    'shift+right': () => extendWords(extendCaret(state(), 1)),
    'mod+shift+left': () => extendWords(extendCaret(state(), -1, 'phrase')),
    'mod+shift+right': () => extendWords(extendCaret(state(), 1, 'phrase')),
    up: () => go(moveByStep(state(), -1)),
    down: () => go(moveByStep(state(), 1)),
    'shift+up': () => extend(-1),
    'shift+down': () => extend(1),
    home: () => goToStep(0),
    end: () => goToStep(-1),
    enter: () => {
      const edit = breakAtCaret(state())
      if (typeof edit === 'string') return void message.info(edit)
      if (!state().edit(edit)) return
      const { lesson } = state().history
      const next = lesson.steps[lesson.steps.findIndex(({ id }) => id === state().caret?.step) + 1]
      if (next) go({ step: next.id, word: 0 })
    },
    s: () => {
      const edit = breakAtTime(state(), player.position())
      if (typeof edit === 'string') return void message.info(edit)
      state().edit(edit)
    },
    'mod+x': () => {
      if (copy()) remove()
    },
    'mod+c': () => void copy(),
    'mod+v': () => void paste(),
    'mod+f': showFind,
    backspace: () => {
      const caret = state().caret
      if (!caret) return
      if (selectedWords(state()).length > 0) return removeWords()
      if (caret.word > 0) return void message.info('Backspace joins at the start of a step. Go there with ← first.')
      const before = moveByStep(state(), -1, 'phrase')
      if (state().edit({ name: 'joinStep', step: caret.step })) go(before)
    },
    'alt+up': () => moveSelected(-1),
    'alt+down': () => moveSelected(1),
    'mod+d': () => {
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
    'mod+a': () => state().select(state().history.lesson.steps.map(({ id }) => id)),
    delete: remove,
    '+': () => zoom(1.25),
    '-': () => zoom(0.8),
    w: () => {
      const { waveHeight, setWaveHeight } = useSheetView.getState()
      setWaveHeight(WAVE_HEIGHTS[(WAVE_HEIGHTS.indexOf(waveHeight as 46) + 1) % WAVE_HEIGHTS.length]!)
    },
    '?': showHelp,
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

  useKeys(actions)
}

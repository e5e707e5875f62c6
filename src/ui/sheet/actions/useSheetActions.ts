'use client'

import { useRouter } from 'next/navigation'
import { useKeys } from '../../keys'
import { useDesk } from '../../lesson/context'
import { useVersionsShown } from '../../lesson/versionsShown'
import { isEaselLarge } from '../score/useSide'
import { useCaptionsShown } from '../../easel/captionsShown'
import { selectedWords } from '../../words/caret'
import { isJustBroken } from '../../words/justBroken'
import { SCALES, useSheetView, WAVE_HEIGHTS } from '../score/view'
import { ACTIONS, OF_THE_LESSON, type SheetActions } from './actions'
import { actionContext } from './context'
import { goActions } from './goActions'
import { keysOf, useKeyChoices, type KeyChoices } from './keyChoices'
import { musicActions } from './musicActions'
import { openMenu } from './SheetMenu'
import { stepActions } from './stepActions'
import { thingActions } from './thingActions'
import { wordActions } from './wordActions'

/** What is shown over the sheet. */
export interface SheetDialogs {
  showHelp(): void
  showFind(): void
  showCommands(): void
}

/** What the actions of the sheet do (actions.ts); their keys do it, too. */
export function useSheetActions({ showHelp, showFind, showCommands }: SheetDialogs): SheetActions {
  const router = useRouter()
  const { id, store, player, tell } = useDesk()
  const context = actionContext(store, player, tell)
  const { setPanel, setUnfolded } = useSheetView.getState()
  /** What is picked would be shown there instead. */
  const showStep = (part: string) => {
    store.getState().pick(null)
    setPanel('selected')
    setUnfolded([part])
  }

  const zoom = (by: number) => {
    const { pixelsPerSecond, setScale } = useSheetView.getState()
    if (pixelsPerSecond * by >= SCALES.least / 2) setScale(pixelsPerSecond * by)
  }
  const actions: SheetActions = {
    ...goActions(context),
    ...wordActions(context),
    ...stepActions(context),
    ...thingActions(context),
    ...musicActions(context),
    find: showFind,
    addSound: () => setPanel('sounds'),
    addPicture: () => showStep('more'),
    shelf: () => setPanel('shelf'),
    video: () => setPanel('video'),
    captions: () => useCaptionsShown.getState().toggle(),
    correctCaptions: () => showStep('captions'),
    largerPicture: () => useSheetView.getState().setEaselLarge(!isEaselLarge()),
    larger: () => zoom(1.25),
    smaller: () => zoom(0.8),
    tallerWave: () => {
      const { waveHeight, setWaveHeight } = useSheetView.getState()
      setWaveHeight(WAVE_HEIGHTS[(WAVE_HEIGHTS.indexOf(waveHeight as 46) + 1) % WAVE_HEIGHTS.length]!)
    },
    booth: () => router.push(`/lessons/${id}/booth`),
    balance: () => router.push(`/lessons/${id}/balance`),
    finish: () => router.push(`/lessons/${id}/finish`),
    versions: () => useVersionsShown.getState().show(),
    // A file, no page.
    // eslint-disable-next-line @next/next/no-location-assign-relative-destination
    saveCopy: () => location.assign(`/api/lessons/${id}/archive`),
    lessons: () => router.push('/'),
    menu: () => openMenu(store.getState()),
    commands: showCommands,
    help: showHelp,
  }
  // A key takes out what is selected, as everywhere, or gives back what Enter took, before it joins; who says 'join' means the steps.
  const backspace = () => {
    const state = store.getState()
    const { caret } = state
    if (state.picked !== null || selectedWords(state).length > 0) actions.remove()
    else if (caret?.word === 0 && isJustBroken(state, caret.step)) state.undo()
    else actions.join()
  }
  useKeys(
    byKeys(
      { ...actions, join: backspace },
      useKeyChoices(({ chosen }) => chosen),
    ),
  )
  return actions
}

const byKeys = (actions: SheetActions, chosen: KeyChoices): Record<string, () => void> =>
  Object.fromEntries(
    ACTIONS.filter(({ id }) => !OF_THE_LESSON.includes(id)).flatMap((action) =>
      keysOf(action, chosen).map((chord) => [chord, actions[action.id]]),
    ),
  )

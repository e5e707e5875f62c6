import type { LayerName } from '@/core/lesson/layers'
import { say } from '@/messages/say'
import { putOver } from '../../over/putOver'
import { takeOut } from '../../words/hang'
import { hangOn, moveThing, nextPicked, thingPicked } from '../../words/picked'
import { layersClip, soundsClip, writeClipboard } from '../../words/clipboard'
import { useSheetView } from '../score/view'
import type { SheetActions } from './actions'
import type { ActionContext } from './context'

/** What can be done with what is picked: a sound, a further picture, a piece of music. */
export function thingActions(context: ActionContext) {
  const { state, tell } = context
  const push = (by: 1 | -1) => {
    if (!pushPicked(context, by, 'moment')) tell(say('actions.chooseASoundOn'))
  }
  const over = (name: LayerName) => {
    const [step] = context.chosen()
    if (!step) return tell(say('actions.chooseAStepFirst'))
    putOver({ store: { getState: state } }, step, name)
    useSheetView.getState().setPanel('selected')
  }
  return {
    pickNext: () => {
      const next = nextPicked(state())
      if (!next) return tell(say('actions.thereAreNoSounds'))
      state().pick(next)
      useSheetView.getState().setPanel('selected')
      document.querySelector(`[data-thing="${CSS.escape(next.id)}"]`)?.scrollIntoView({ block: 'nearest' })
    },
    letGo: () => {
      state().pick(null)
      if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
    },
    overTitle: () => over('title'),
    overLabel: () => over('label'),
    overRing: () => over('ring'),
    overArrow: () => over('arrow'),
    overCover: () => over('cover'),
    overCloser: () => over('closer'),
    overSlowMove: () => over('slow move'),
    thingEarlier: () => push(-1),
    thingLater: () => push(1),
  } satisfies Partial<SheetActions>
}

const pickedIn = ({ state }: ActionContext) => thingPicked(state().history.lesson, state().picked)

/** Moves what is picked; false where nothing is. */
export function pushPicked(context: ActionContext, by: 1 | -1, unit: 'moment' | 'word'): boolean {
  const thing = pickedIn(context)
  if (!thing) return false
  const edits = moveThing(context.state(), thing, by, unit)
  if (typeof edits === 'string') context.tell(edits)
  else context.state().edit(...edits)
  return true
}

/** Takes out what is picked; false where nothing is. */
export function removePicked(context: ActionContext): boolean {
  const thing = pickedIn(context)
  if (!thing) return false
  if (context.state().edit(...takeOut(thing))) context.state().pick(null)
  return true
}

/** Copies a picked sound, or what lies over a picture; false where neither is. */
export function copyPicked(context: ActionContext): boolean {
  const thing = pickedIn(context)
  if (thing?.kind === 'sound') writeClipboard(soundsClip(context.state(), [thing.cue.id])!)
  else if (thing?.kind === 'layer') writeClipboard(layersClip([thing.layer]))
  else return false
  return true
}

/** Hangs what is picked on the word at the caret. */
export function hangPickedAtCaret({ state, tell }: Pick<ActionContext, 'state' | 'tell'>): void {
  const { caret, picked, history } = state()
  const thing = thingPicked(history.lesson, picked)
  if (!thing || !caret) return
  const edits = hangOn(state(), thing, caret)
  if (typeof edits === 'string') tell(edits)
  else state().edit(...edits)
}

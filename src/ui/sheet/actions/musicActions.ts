import { clamp } from '@/core/units'
import { say } from '@/messages/say'
import { bedInStep } from '../../words/bedInStep'
import { useSheetView } from '../score/view'
import type { SheetActions } from './actions'
import type { ActionContext } from './context'

/** One push in the whole lesson, in LU, and in a step, in dB. */
const PUSH = { lesson: 2, step: 3 }
const CLEARANCE = { least: 3, most: 40 }

/** How loud the music is, in the lesson and in one step. */
export function musicActions({ state, tell }: ActionContext) {
  /** The music is further from the voice the quieter it is. */
  const changeClearance = (by: number) => {
    const { clearance } = state().history.lesson.targets
    const value = clamp(clearance + by, CLEARANCE.least, CLEARANCE.most)
    if (value === clearance) return tell(say('actions.theMusicIsAs'))
    if (state().edit({ name: 'setTarget', target: 'clearance', value })) tell(say('actions.theMusicStaysLu', { value }))
  }
  const changeHere = (by: number) => {
    const edits = bedInStep(state(), by)
    if (typeof edits === 'string') return tell(edits)
    const { caret, history } = state()
    const step = history.lesson.steps.findIndex(({ id }) => id === caret?.step) + 1
    if (state().edit(...edits)) {
      const message = by < 0 ? 'actions.quieterInStep' : 'actions.louderInStep'
      tell(say(message, { by: PUSH.step, step }))
    }
  }
  return {
    musicSofter: () => changeClearance(PUSH.lesson),
    musicLouder: () => changeClearance(-PUSH.lesson),
    musicSofterHere: () => changeHere(-PUSH.step),
    musicLouderHere: () => changeHere(PUSH.step),
    musicSettings: () => useSheetView.getState().setPanel('music'),
  } satisfies Partial<SheetActions>
}

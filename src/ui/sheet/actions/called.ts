import { say } from '@/messages/say'
import { actionTitle, type Action } from './actions'
import type { Setting } from './settings'

/** Something that can be done, or set. */
export type Thing = { action: Action } | { setting: Setting }

/** Its name, and other words by which somebody would look for it. */
export const calledOf = (thing: Thing): [name: string, others: string] =>
  'action' in thing
    ? [actionTitle(thing.action), say(`actionWords.${thing.action.id}`)]
    : [thing.setting.name(), say(`settingWords.${thing.setting.id}`)]

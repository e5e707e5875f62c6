'use client'

import { Dropdown, type MenuProps } from 'antd'
import type { MouseEvent, ReactElement } from 'react'
import { shownKeys } from '../../keys'
import { useDesk } from '../../lesson/context'
import { isApple } from '../../system'
import { ACTIONS, type Action, type SheetActions } from './actions'

/** Opens the menu where the caret's row is, as a pointer would. */
export function openRowMenu(step: string | undefined): void {
  const row = step === undefined ? null : document.querySelector(`[role=row][data-step="${CSS.escape(step)}"]`)
  if (!row) return
  const { left, top } = row.getBoundingClientRect()
  const at = { clientX: left + BESIDE, clientY: Math.max(BESIDE, top + BESIDE) }
  row.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, ...at }))
}
const BESIDE = 40 // px

/** The menu of a row: what can be done with its step or the selected words, each with its key. */
export function RowMenu({ actions, children }: { actions: SheetActions; children: ReactElement }) {
  const { store } = useDesk()
  const items: MenuProps['items'] = ACTIONS.filter((action: Action) => action.inMenu).flatMap(
    ({ id, title, keys, group }, i, all) => [
      ...(i > 0 && all[i - 1]!.group !== group ? [{ type: 'divider' as const, key: `before ${id}` }] : []),
      { key: id, label: title, extra: shownKeys(keys[0]!, isApple()), onClick: actions[id] },
    ],
  )
  /** What is not selected becomes so: the menu is about it. */
  const choose = (event: MouseEvent) => {
    const step = (event.target as Element).closest<HTMLElement>('[data-step]')?.dataset.step
    if (step && !store.getState().selected.includes(step)) store.getState().select([step], { step, word: 0 })
  }
  return (
    <div onContextMenuCapture={choose}>
      <Dropdown trigger={['contextMenu']} menu={{ items }} autoFocus destroyOnHidden>
        {children}
      </Dropdown>
    </div>
  )
}

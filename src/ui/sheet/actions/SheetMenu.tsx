'use client'

import { Dropdown, type MenuProps } from 'antd'
import { useState, type MouseEvent, type ReactNode } from 'react'
import { shownKeys } from '../../keys'
import { useDesk } from '../../lesson/context'
import type { LessonState, LessonStore } from '../../lesson/lessonStore'
import { selectedWords, selectionOf } from '../../words/caret'
import { isApple } from '../../system'
import { BED_HEIGHT } from '../score/view'
import { placeUnder } from '../score/wordUnder'
import { ACTIONS, actionTitle, type Action, type MenuOf, type SheetActions } from './actions'
import { useShownKey } from './keyChoices'
import styles from '../sheet.module.css'

/** Opens the menu of what is picked or selected, where it stands, as a pointer would. */
export function openMenu(state: LessonState): void {
  const { picked, caret } = state
  const row = caret && `[role=row][data-step="${CSS.escape(caret.step)}"]`
  const isAtWord = caret !== null && (caret.word > 0 || selectedWords(state).length > 0)
  const at =
    (picked && document.querySelector(`[data-thing="${CSS.escape(picked.id)}"]`)) ||
    (row && isAtWord && document.querySelector(`${row} [data-word="${caret.word}"]`)) ||
    (row && document.querySelector(`${row} [data-margin]`))
  if (!at) return
  const { left, top, height } = at.getBoundingClientRect()
  const point = { clientX: left + 4, clientY: Math.max(60, top + Math.min(height - 2, 40)) }
  at.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, ...point }))
}

/** The menu of whatever one presses on: a step, words, a tab, the music, a length. Each action with its key. */
export function SheetMenu({ actions, children }: { actions: SheetActions; children: ReactNode }) {
  const { store } = useDesk()
  const [about, setAbout] = useState<MenuOf>('step')
  const shownKey = useShownKey()
  const items: MenuProps['items'] = actionsOf(about).flatMap((action, i, all) => {
    const { id, group } = action
    const key = shownKey(action)
    return [
      ...(i > 0 && all[i - 1]!.group !== group ? [{ type: 'divider' as const, key: `before ${id}` }] : []),
      { key: id, label: actionTitle(action), extra: key && shownKeys(key, isApple()), onClick: actions[id] },
    ]
  })
  const onPress = (event: MouseEvent) => {
    // Beside the rows there is nothing that it could be about.
    if ((event.target as Element).closest('[data-step]')) setAbout(choose(store, event))
    else event.stopPropagation()
  }
  return (
    <Dropdown trigger={['contextMenu']} menu={{ items }} autoFocus destroyOnHidden>
      <div className={styles.ground} onContextMenuCapture={onPress}>
        {children}
      </div>
    </Dropdown>
  )
}

const actionsOf = (about: MenuOf) => ACTIONS.filter((action: Action) => action.menus?.includes(about))

/** What is pressed on becomes selected, unless it is already: the menu is about it. */
function choose(store: LessonStore, event: MouseEvent): MenuOf {
  const { select, pick, selected, history, caret } = store.getState()
  const target = event.target as Element
  const thing = target.closest<HTMLElement>('[data-thing]')
  if (thing) {
    pick({ kind: thing.dataset.kind as 'sound', id: thing.dataset.thing! })
    return 'thing'
  }
  const step = target.closest<HTMLElement>('[data-step]')?.dataset.step
  if (step === undefined) return 'step'
  const chooseStep = () => {
    if (!selected.includes(step)) select([step], { step, word: 0 })
  }
  if (target.closest('[data-length]')) {
    chooseStep()
    return 'length'
  }
  if (target.closest('[data-line]') === null) {
    chooseStep()
    return 'step'
  }
  if (isOnBed(target, event.clientY)) {
    chooseStep()
    return 'music'
  }
  const place = placeUnder(event)
  if (!place) {
    chooseStep()
    return 'step'
  }
  const range = selectionOf(history.lesson.steps, caret).get(place.step)
  if (!range || place.word < range.from || place.word >= range.to) select([place.step], place)
  return 'words'
}

/** The music runs along the foot of a line. */
function isOnBed(target: Element, y: number): boolean {
  const canvas = target.closest('[data-line]')?.querySelector('canvas')
  return canvas ? y > canvas.getBoundingClientRect().bottom - BED_HEIGHT : false
}

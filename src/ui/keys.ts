import { useEffect, useEffectEvent } from 'react'
import { say } from '@/messages/say'

/**
 * Keys by what they write, not by where they are: on most keyboards `?` and `+` need Shift, and where one board has Z
 * another has Y. Named like `mod+shift+left`, `mod+z`, `space`, `?`; `mod` is Ctrl or Cmd.
 */

const NAMES: Record<string, string> = {
  ' ': 'space',
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
}

type Pressed = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>

export function chordOf(event: Pressed): string {
  const key = keyOf(event)
  // A mark is what it is, by whatever keys it is written.
  if (/^[^\p{L}\p{N}]$/u.test(key)) return (event.ctrlKey || event.metaKey) && !event.altKey ? `mod+${key}` : key
  return [(event.ctrlKey || event.metaKey) && 'mod', event.altKey && 'alt', event.shiftKey && 'shift', key]
    .filter(Boolean)
    .join('+')
}

function keyOf({ key, code }: Pressed): string {
  if (key.length > 1 || key === ' ') return NAMES[key] ?? key.toLowerCase()
  // A board that writes no Latin letters has those of its places.
  const isOther = /\p{L}/u.test(key) && !/\p{Script=Latin}/u.test(key)
  return isOther && code.startsWith('Key') ? code.slice(3).toLowerCase() : key.toLowerCase()
}

const SIGNS: Record<string, string> = { left: '←', right: '→', up: '↑', down: '↓', '-': '−' }
const named = (): Record<string, string> => ({
  space: say('parts.space'),
  enter: say('parts.enter'),
  backspace: say('parts.backspace'),
  delete: say('parts.delete'),
  home: say('parts.home'),
  end: say('parts.end'),
  contextmenu: say('parts.menu'),
  escape: say('parts.esc'),
  ',': say('parts.comma'),
  '.': say('parts.point'),
})

/** A chord as this system writes it: `Ctrl Shift ←`, or `⇧⌘←` where there is a Cmd key. */
export function shownKeys(chord: string, isApple: boolean): string {
  // A plus sign is a key, too.
  const parts = chord === '+' ? ['+'] : chord.split('+')
  const key = parts.at(-1)!
  const shown = SIGNS[key] ?? named()[key] ?? key.toUpperCase()
  const has = (modifier: string) => parts.slice(0, -1).includes(modifier)
  if (isApple) return `${has('alt') ? '⌥' : ''}${has('shift') ? '⇧' : ''}${has('mod') ? '⌘' : ''}${shown}`
  return [has('mod') && say('parts.ctrl'), has('alt') && say('parts.alt'), has('shift') && say('parts.shift'), shown]
    .filter(Boolean)
    .join(' ')
}

/** What one types in, and what letters choose from. */
const TYPED =
  'textarea, select, input:not([type=radio]):not([type=checkbox]), [contenteditable="true"], [role="listbox"], [role="menu"], [role="combobox"], .ant-select, .ant-modal, .ant-popover, .ant-dropdown'
/** What arrows and their like move in. */
const MOVED_IN = '[role="slider"], [role="radiogroup"], [role="tablist"]'
const MOVES = new Set(['left', 'right', 'up', 'down', 'home', 'end', 'pageup', 'pagedown'])
/** What Space and Enter press. */
const PRESSED =
  'button, a[href], input, [role="button"], [role="switch"], [role="checkbox"], [role="radio"], [role="tab"], summary, label'
const PRESSES = new Set(['space', 'enter'])
/** What lies over the page for the time being, and has the keys meanwhile. */
const OVER =
  '.ant-modal-wrap:not([style*="display: none"]), .ant-dropdown:not(.ant-dropdown-hidden), .ant-select-dropdown:not(.ant-select-dropdown-hidden)'

/** Whether what is focused, or lies over the page, needs this key for itself. */
export function isTaken(target: EventTarget | null, chord: string): boolean {
  if (document.querySelector(OVER)) return true
  if (!(target instanceof HTMLElement)) return false
  const key = chord.split('+').at(-1)!
  return (
    target.closest(TYPED) !== null ||
    (MOVES.has(key) && target.closest(MOVED_IN) !== null) ||
    (PRESSES.has(key) && target.closest(PRESSED) !== null)
  )
}

/** Does what a key stands for, unless it is somebody else's: of a field, a menu, an input method. */
export function useKeys(actions: Readonly<Record<string, (event: KeyboardEvent) => void>>): void {
  const onKeyDown = useEffectEvent((event: KeyboardEvent) => {
    if (event.isComposing || event.defaultPrevented) return
    const chord = chordOf(event)
    const action = Object.hasOwn(actions, chord) ? actions[chord] : undefined
    if (!action || isTaken(event.target, chord)) return
    event.preventDefault()
    action(event)
  })
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKeyDown(event)
    document.addEventListener('keydown', listen)
    return () => document.removeEventListener('keydown', listen)
  }, [])
}

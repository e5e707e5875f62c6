'use client'

import { Input } from 'antd'
import { useEffect, useMemo, useRef, useState } from 'react'
import { findWords } from '@/core/narration/words/findWords'
import type { Step } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { Dialog } from '../../parts/Dialog'
import { shownKeys } from '../../keys'
import { useDesk, useLesson } from '../../lesson/context'
import { isApple } from '../../system'
import { ACTIONS, actionTitle, type Action, type ActionId, type SheetActions } from './actions'
import { keysOf, useKeyChoices } from './keyChoices'
import { calledOf, type Thing } from './called'
import { search, type Found } from './search'
import { goToSetting, SETTINGS, type Setting } from './settings'
import { caretTime } from '../../words/caret'
import styles from './keys.module.css'

interface Command {
  key: string
  title: string
  /** What sort of thing it is. */
  kind: string
  keys?: string
  run(): void
}

const MOST_WORDS = 8
const MOST_STEPS = 8

/** Finds what one wants to do, or go to, by what people call it. Mounted while it is open. */
export function CommandList({ actions, onClose }: { actions: SheetActions; onClose: () => void }) {
  const { store, player } = useDesk()
  const { steps } = useLesson()
  const [sought, setSought] = useState('')
  const [at, setAt] = useState(0)
  const chosen = useKeyChoices((state) => state.chosen)
  const { commands, isNearest } = useMemo(() => {
    const go = (step: string, word: number) => {
      store.getState().select([step], { step, word })
      player.seek(caretTime(store.getState(), { step, word }))
    }
    const ofLesson = [...stepCommands(sought, steps, go), ...wordCommands(sought, steps, go)]
    const isNumber = /^\d+$/.test(sought.trim())
    const shownKey = (action: Action) => keysOf(action, chosen)[0]
    const { found, isNearest } = doable(sought, actions, shownKey, () => store.getState().pick(null))
    // What is said in the lesson goes before what is only like what is sought; a number is that of a step.
    return isNearest && ofLesson.length > 0
      ? { commands: ofLesson, isNearest: false }
      : { commands: isNumber ? [...ofLesson, ...found] : [...found, ...ofLesson], isNearest }
  }, [sought, steps, actions, chosen, store, player])
  const list = useRef<HTMLUListElement>(null)
  const now = Math.min(at, commands.length - 1)
  useEffect(() => {
    // Newer browsers give a promise, which is nothing to be cleaned up.
    void list.current?.children[now]?.scrollIntoView({ block: 'nearest' })
  }, [now])

  const run = (command: Command | undefined) => {
    if (!command) return
    onClose()
    command.run()
  }
  return (
    <Dialog title={say('actions.whatDoYouWant')} footer={null} onCancel={onClose} width={620} style={{ top: 60 }}>
      <Input
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls="commands"
        aria-activedescendant={commands[now] && `command-${now}`}
        aria-label={say('actions.whatDoYouWant')}
        placeholder={say('actions.quieterMusicSplitWords')}
        value={sought}
        onChange={(event) => {
          setSought(event.target.value)
          setAt(0)
        }}
        onKeyDown={(event) => {
          if (event.nativeEvent.isComposing) return
          const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
          if (by) {
            event.preventDefault()
            setAt((now + by + commands.length) % Math.max(1, commands.length))
          }
          if (event.key === 'Enter') run(commands[now])
        }}
      />
      {isNearest && (
        <p className={styles.nearest} role="status">
          {say('actions.nearest')}
        </p>
      )}
      <ul className={styles.results} role="listbox" id="commands" aria-label={say('actions.whatWasFound')} ref={list}>
        {commands.map((command, i) => (
          <li
            key={command.key}
            id={`command-${i}`}
            role="option"
            aria-selected={i === now}
            onMouseMove={() => setAt(i)}
            onClick={() => run(command)}
          >
            <span className={styles.what}>{command.title}</span>
            <span className={styles.kind}>{command.kind}</span>
            {command.keys && <kbd>{shownKeys(command.keys, isApple())}</kbd>}
          </li>
        ))}
      </ul>
      {commands.length === 0 && <p role="status">{say('actions.nothingIsCalledSo')}</p>}
    </Dialog>
  )
}

/** What can be done or set, by name and by other words for it; settings only where something is looked for: they are many. */
function doable(
  sought: string,
  actions: SheetActions,
  shownKey: (action: Action) => string | undefined,
  letGo: () => void,
): Found<Command> {
  const things: Thing[] = [
    ...ACTIONS.filter(({ id }) => id !== 'commands').map((action) => ({ action })),
    ...(sought.trim() === '' ? [] : SETTINGS.map((setting) => ({ setting }))),
  ]
  const { found, isNearest } = search(sought, things, calledOf)
  const commands = found.map((thing): Command => {
    if ('setting' in thing) return settingCommand(thing.setting, letGo)
    const { action } = thing
    return {
      key: action.id,
      title: actionTitle(action),
      kind: say(`actionGroups.${action.group}`),
      keys: shownKey(action),
      run: actions[action.id as ActionId],
    }
  })
  return { found: commands, isNearest }
}

const settingCommand = (setting: Setting, letGo: () => void): Command => ({
  key: `setting ${setting.id}`,
  title: setting.name(),
  kind: say('actions.goToTheSetting'),
  run: () => {
    // What is picked would be shown instead of its step.
    if (setting.panel === 'selected') letGo()
    goToSetting(setting)
  },
})

function stepCommands(sought: string, steps: readonly Step[], go: (step: string, word: number) => void): Command[] {
  const wanted = sought.trim().toLocaleLowerCase()
  if (wanted === '') return []
  return steps
    .map(({ id, title }, index) => ({ id, title, number: String(index + 1) }))
    .filter(({ title, number }) => number === wanted || title.toLocaleLowerCase().includes(wanted))
    .slice(0, MOST_STEPS)
    .map(({ id, title, number }) => ({
      key: `step ${id}`,
      title: `${number}. ${title}`,
      kind: say('actions.goToTheStep'),
      run: () => go(id, 0),
    }))
}

/** Two letters are in every text. */
const LEAST_LETTERS = 3

function wordCommands(sought: string, steps: readonly Step[], go: (step: string, word: number) => void): Command[] {
  if (sought.trim().length < LEAST_LETTERS) return []
  return findWords(steps, sought)
    .slice(0, MOST_WORDS)
    .map(({ step, word }) => {
      const index = steps.findIndex(({ id }) => id === step)
      return {
        key: `word ${step} ${word}`,
        title: say('actions.inStep', { sought: sought.trim(), number: index + 1, title: steps[index]!.title }),
        kind: say('actions.goToTheWords'),
        run: () => go(step, Math.max(0, word)),
      }
    })
}

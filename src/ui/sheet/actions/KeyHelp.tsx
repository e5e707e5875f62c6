'use client'

import { Button, Modal } from 'antd'
import { useEffect, useEffectEvent, useState } from 'react'
import { say } from '@/messages/say'
import { chordOf, shownKeys } from '../../keys'
import { isApple } from '../../system'
import { ACTION_GROUPS, ACTIONS, actionTitle, type Action, type ActionGroup, type ActionId } from './actions'
import { keysOf, useKeyChoices } from './keyChoices'
import styles from './keys.module.css'

/** Every key of the sheet, by what it is for; each can be changed. */
export function KeyHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [asked, setAsked] = useState<ActionId | null>(null)
  const { chosen, choose, reset } = useKeyChoices()
  useNextChord(asked !== null, (chord) => {
    if (asked && chord) choose(asked, chord)
    setAsked(null)
  })
  return (
    <Modal
      title={say('actions.keysOfTheSheet')}
      open={open}
      onCancel={onClose}
      width={900}
      style={{ top: 24 }}
      keyboard={asked === null}
      footer={
        Object.keys(chosen).length > 0 && (
          <Button size="small" onClick={reset}>
            {say('actions.backToTheUsual')}
          </Button>
        )
      }
    >
      <p className={styles.hint}>{say('actions.pressAKeyHere')}</p>
      <div className={styles.keys}>
        {ACTION_GROUPS.map((group) => (
          <KeyGroup key={group} group={group} asked={asked} onAsk={setAsked} />
        ))}
      </div>
    </Modal>
  )
}

interface KeyGroupProps {
  group: ActionGroup
  asked: ActionId | null
  onAsk: (action: ActionId) => void
}

function KeyGroup({ group, asked, onAsk }: KeyGroupProps) {
  const chosen = useKeyChoices((state) => state.chosen)
  return (
    <section>
      <h3>{say(`actionGroups.${group}`)}</h3>
      <dl>
        {ACTIONS.filter((action) => action.group === group).map((action: Action) => {
          const [key] = keysOf(action, chosen)
          const id = action.id as ActionId
          const shown = asked === id ? say('actions.strikeIt') : key ? shownKeys(key, isApple()) : say('actions.noKey')
          return (
            <div key={id}>
              <dt>
                <button
                  aria-label={`${actionTitle(action)}: ${shown}`}
                  data-none={key ? undefined : ''}
                  onClick={() => onAsk(id)}
                >
                  <kbd>{shown}</kbd>
                </button>
              </dt>
              <dd>{actionTitle(action)}</dd>
            </div>
          )
        })}
      </dl>
    </section>
  )
}

const MODIFIERS = new Set(['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'Dead', 'CapsLock'])
/** These have the keyboard's own way about them. */
const KEPT = new Set(['Tab', 'Escape'])

/** Tells the next chord that is struck, and nobody else; null where it was one that can't be given away. */
function useNextChord(isAsked: boolean, tell: (chord: string | null) => void): void {
  const onKeyDown = useEffectEvent((event: KeyboardEvent) => {
    if (MODIFIERS.has(event.key)) return
    event.preventDefault()
    event.stopImmediatePropagation()
    tell(KEPT.has(event.key) ? null : chordOf(event))
  })
  useEffect(() => {
    if (!isAsked) return
    const listen = (event: KeyboardEvent) => onKeyDown(event)
    window.addEventListener('keydown', listen, true)
    return () => window.removeEventListener('keydown', listen, true)
  }, [isAsked])
}

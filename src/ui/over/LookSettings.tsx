'use client'

import { Checkbox, Select } from 'antd'
import type { Look } from '@/core/lesson/layers'
import { say } from '@/messages/say'
import { useDesk, useLesson } from '../lesson/context'
import panel from '../sheet/panel.module.css'
import styles from './over.module.css'

const COLOURS = [
  ['ink', 'over.ofLetters'],
  ['ground', 'over.ofGround'],
  ['accent', 'over.ofPointers'],
] as const

/** How words and pointers look, the same throughout the lesson. */
export function LookSettings() {
  const { store } = useDesk()
  const { look } = useLesson()
  const set = (part: Partial<Look>) => store.getState().edit({ name: 'setLook', look: { ...look, ...part } })
  return (
    <div className={panel.fields}>
      <span>{say('over.letters')}</span>
      <Select
        aria-label={say('over.letters')}
        value={look.letters}
        options={[
          { value: 'plain', label: say('over.plain') },
          { value: 'book', label: say('over.asInABook') },
        ]}
        onChange={(letters) => set({ letters })}
      />
      <span>{say('over.colours')}</span>
      <div className={styles.colours}>
        {COLOURS.map(([key, label]) => (
          <label key={key}>
            <input type="color" value={look[key]} onChange={(event) => set({ [key]: event.target.value })} />
            {say(label)}
          </label>
        ))}
      </div>
      <span>{say('over.box')}</span>
      <Checkbox checked={look.boxed} onChange={({ target }) => set({ boxed: target.checked })}>
        {say('over.wordsStandOnTheir')}
      </Checkbox>
    </div>
  )
}

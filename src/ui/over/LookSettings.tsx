'use client'

import { Checkbox, Select } from 'antd'
import type { Look } from '@/core/lesson/layers'
import { useDesk, useLesson } from '../lesson/context'
import panel from '../sheet/panel.module.css'
import styles from './over.module.css'

const COLOURS = [
  ['ink', 'letters'],
  ['ground', 'ground'],
  ['accent', 'pointers'],
] as const

/** How words and pointers look, the same throughout the lesson. */
export function LookSettings() {
  const { store } = useDesk()
  const { look } = useLesson()
  const set = (part: Partial<Look>) => store.getState().edit({ name: 'setLook', look: { ...look, ...part } })
  return (
    <div className={panel.fields}>
      <span>Letters</span>
      <Select
        aria-label="Letters"
        value={look.letters}
        options={[
          { value: 'plain', label: 'plain' },
          { value: 'book', label: 'as in a book' },
        ]}
        onChange={(letters) => set({ letters })}
      />
      <span>Colours</span>
      <div className={styles.colours}>
        {COLOURS.map(([key, label]) => (
          <label key={key}>
            <input type="color" value={look[key]} onChange={(event) => set({ [key]: event.target.value })} />
            {label}
          </label>
        ))}
      </div>
      <span>Box</span>
      <Checkbox checked={look.boxed} onChange={({ target }) => set({ boxed: target.checked })}>
        Words stand on their ground
      </Checkbox>
    </div>
  )
}

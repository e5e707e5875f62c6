'use client'

import { Segmented } from 'antd'
import { useState } from 'react'
import { MusicPanel } from './music/MusicPanel'
import { ShelfPanel } from './files/ShelfPanel'
import { SoundsPanel } from './sounds/SoundsPanel'
import { StepPanel } from './step/StepPanel'
import styles from './panel.module.css'

type Tab = 'step' | 'music' | 'sounds' | 'shelf'

/** Properties of what is selected, of the music, and the files of the lesson. */
export function Panel() {
  const [tab, setTab] = useState<Tab>('step')
  return (
    <section className={styles.panel} aria-label="Settings">
      <Segmented<Tab>
        block
        value={tab}
        onChange={setTab}
        aria-label="What to set"
        options={[
          { value: 'step', label: 'Step' },
          { value: 'music', label: 'Music' },
          { value: 'sounds', label: 'Sounds' },
          { value: 'shelf', label: 'Shelf' },
        ]}
      />
      <div className={styles.body}>
        {tab === 'step' && <StepPanel />}
        {tab === 'music' && <MusicPanel />}
        {tab === 'sounds' && <SoundsPanel />}
        {tab === 'shelf' && <ShelfPanel />}
      </div>
    </section>
  )
}

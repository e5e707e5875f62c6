'use client'

import { Segmented } from 'antd'
import type { SheetActions } from './actions/actions'
import { onDemand } from '../parts/onDemand'
import { useSheetView, type PanelTab } from './score/view'
import { SelectedPanel } from './selected/SelectedPanel'
import styles from './panel.module.css'

const MusicPanel = onDemand(() => import('./music/MusicPanel').then((part) => part.MusicPanel))
const SoundsPanel = onDemand(() => import('./sounds/SoundsPanel').then((part) => part.SoundsPanel))
const ShelfPanel = onDemand(() => import('./files/ShelfPanel').then((part) => part.ShelfPanel))

/** Settings of what is selected, of the music, of the sounds, and the files of the lesson. */
export function Panel({ actions }: { actions: SheetActions }) {
  const panel = useSheetView((view) => view.panel)
  return (
    <section className={styles.panel} aria-label="Settings">
      <Segmented<PanelTab>
        block
        value={panel}
        onChange={useSheetView.getState().setPanel}
        aria-label="What to set"
        options={[
          { value: 'selected', label: 'Selected' },
          { value: 'music', label: 'Music' },
          { value: 'sounds', label: 'Sounds' },
          { value: 'shelf', label: 'Shelf' },
        ]}
      />
      <div className={styles.body}>
        {panel === 'selected' && <SelectedPanel actions={actions} />}
        {panel === 'music' && <MusicPanel />}
        {panel === 'sounds' && <SoundsPanel />}
        {panel === 'shelf' && <ShelfPanel />}
      </div>
    </section>
  )
}

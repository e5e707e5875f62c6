'use client'

import { Segmented } from 'antd'
import type { SheetActions } from './actions/actions'
import { ShelfPanel } from './files/ShelfPanel'
import { MusicPanel } from './music/MusicPanel'
import { useSheetView, type PanelTab } from './score/view'
import { SelectedPanel } from './selected/SelectedPanel'
import { SoundsPanel } from './sounds/SoundsPanel'
import styles from './panel.module.css'

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

'use client'

import { DownOutlined, UpOutlined } from '@ant-design/icons'
import { Button, Segmented } from 'antd'
import { useState } from 'react'
import type { SheetActions } from './actions/actions'
import { onDemand } from '../parts/onDemand'
import { useSheetView, type PanelTab } from './score/view'
import { SelectedPanel } from './selected/SelectedPanel'
import styles from './panel.module.css'

const MusicPanel = onDemand(() => import('./music/MusicPanel').then((part) => part.MusicPanel))
const SoundsPanel = onDemand(() => import('./sounds/SoundsPanel').then((part) => part.SoundsPanel))
const VideoPanel = onDemand(() => import('../video/VideoPanel').then((part) => part.VideoPanel))
const ShelfPanel = onDemand(() => import('./files/ShelfPanel').then((part) => part.ShelfPanel))

/** Settings of what is selected, of the music, of the sounds, and the files of the lesson. */
export function Panel({ actions }: { actions: SheetActions }) {
  const panel = useSheetView((view) => view.panel)
  // Only where there is no room beside the score; otherwise it is always there.
  const [isUnfolded, setUnfolded] = useState(false)
  const choose = (tab: PanelTab) => {
    useSheetView.getState().setPanel(tab)
    setUnfolded(true)
  }
  return (
    <section className={styles.panel} data-folded={!isUnfolded || undefined} aria-label="Settings">
      <Button
        size="small"
        className={styles.unfold}
        aria-expanded={isUnfolded}
        icon={isUnfolded ? <DownOutlined /> : <UpOutlined />}
        onClick={() => setUnfolded(!isUnfolded)}
      >
        {isUnfolded ? 'Fold the settings' : 'Settings'}
      </Button>
      <Segmented<PanelTab>
        block
        value={panel}
        onChange={choose}
        aria-label="What to set"
        options={[
          { value: 'selected', label: 'Selected' },
          { value: 'music', label: 'Music' },
          { value: 'sounds', label: 'Sounds' },
          { value: 'shelf', label: 'Shelf' },
          { value: 'video', label: 'Video' },
        ]}
      />
      <div className={styles.body}>
        {panel === 'selected' && <SelectedPanel actions={actions} />}
        {panel === 'music' && <MusicPanel />}
        {panel === 'sounds' && <SoundsPanel />}
        {panel === 'shelf' && <ShelfPanel />}
        {panel === 'video' && <VideoPanel />}
      </div>
    </section>
  )
}

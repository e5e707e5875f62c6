'use client'

import { DownOutlined, UpOutlined } from '@/ui/parts/icons'
import { Button, Segmented } from 'antd'
import { say } from '@/messages/say'
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
  const { isPanelUnfolded: isUnfolded, setPanelUnfolded: setUnfolded } = useSheetView()
  const choose = (tab: PanelTab) => {
    useSheetView.getState().setPanel(tab)
    setUnfolded(true)
  }
  return (
    <section className={styles.panel} data-folded={!isUnfolded || undefined} aria-label={say('sheet.settings')}>
      <Button
        size="small"
        className={styles.unfold}
        aria-expanded={isUnfolded}
        icon={isUnfolded ? <DownOutlined /> : <UpOutlined />}
        onClick={() => setUnfolded(!isUnfolded)}
      >
        {isUnfolded ? say('sheet.foldTheSettings') : say('sheet.settings')}
      </Button>
      <Segmented<PanelTab>
        block
        value={panel}
        onChange={choose}
        aria-label={say('sheet.whatToSet')}
        options={[
          { value: 'selected', label: say('sheet.selected') },
          { value: 'music', label: say('sheet.music') },
          { value: 'sounds', label: say('sheet.sounds') },
          { value: 'shelf', label: say('sheet.shelf') },
          { value: 'video', label: say('sheet.video') },
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

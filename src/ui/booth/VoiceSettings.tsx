'use client'

import { Drawer, Tabs } from 'antd'
import type { Step, Take } from '@/core/lesson/document'
import { CleanUpTab } from './CleanUpTab'
import { PausesTab } from './PausesTab'
import { ReadingTab } from './ReadingTab'

/** Undo must stay in reach while one tries things. */
const BELOW_HEADER = { top: 52 }

/** Everything that is set for the voice as a whole: clean-up, pauses, and the voice that reads. */
export function VoiceSettings({
  step,
  takes,
  open,
  onClose,
}: {
  step: Step
  takes: readonly Take[]
  open: boolean
  onClose: () => void
}) {
  return (
    <Drawer open={open} onClose={onClose} size={460} title="Voice and clean-up" mask={false} rootStyle={BELOW_HEADER}>
      <Tabs
        items={[
          { key: 'clean', label: 'Clean-up', children: <CleanUpTab step={step} takes={takes} /> },
          { key: 'pauses', label: 'Pauses', children: <PausesTab step={step} /> },
          { key: 'reading', label: 'Reading voice', children: <ReadingTab /> },
        ]}
      />
    </Drawer>
  )
}

'use client'

import { Drawer, Tabs } from 'antd'
import type { Step, Take } from '@/core/lesson/document'
import { say } from '@/messages/say'
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
    <Drawer
      open={open}
      onClose={onClose}
      size={460}
      title={say('booth.voiceSettings')}
      mask={false}
      rootStyle={BELOW_HEADER}
    >
      <Tabs
        items={[
          { key: 'clean', label: say('booth.cleanUp'), children: <CleanUpTab step={step} takes={takes} /> },
          { key: 'pauses', label: say('booth.pauses'), children: <PausesTab step={step} /> },
          { key: 'reading', label: say('booth.readingVoice'), children: <ReadingTab /> },
        ]}
      />
    </Drawer>
  )
}

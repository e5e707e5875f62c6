'use client'

import { useState } from 'react'
import { Easel } from '../easel/Easel'
import { FindBar } from './FindBar'
import { KeyHelp } from './actions/KeyHelp'
import { LessonStrip } from './score/LessonStrip'
import { Panel } from './Panel'
import { Score } from './score/Score'
import { CommandList } from './actions/CommandList'
import { useSheetActions } from './actions/useSheetActions'
import styles from './sheet.module.css'

/** The view in which most work is done: the steps as rows of a score, and beside them what the viewer sees. */
export function Sheet() {
  const [help, setHelp] = useState(false)
  const [find, setFind] = useState(false)
  const [commands, setCommands] = useState(false)
  const actions = useSheetActions({
    showHelp: () => setHelp(true),
    showFind: () => setFind(true),
    showCommands: () => setCommands(true),
  })
  return (
    <div className={styles.sheet}>
      <LessonStrip />
      <Score actions={actions} find={find && <FindBar onClose={() => setFind(false)} />} />
      <aside className={styles.side} aria-label="What the viewer sees, and settings">
        <Easel />
        <Panel />
      </aside>
      {commands && <CommandList actions={actions} onClose={() => setCommands(false)} />}
      <KeyHelp open={help} onClose={() => setHelp(false)} />
    </div>
  )
}

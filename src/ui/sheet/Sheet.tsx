'use client'

import { useState } from 'react'
import { FindBar } from './FindBar'
import { KeyHelp } from './actions/KeyHelp'
import { LessonStrip } from './score/LessonStrip'
import { Side } from './Side'
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
      <Side actions={actions} />
      {commands && <CommandList actions={actions} onClose={() => setCommands(false)} />}
      <KeyHelp open={help} onClose={() => setHelp(false)} />
    </div>
  )
}

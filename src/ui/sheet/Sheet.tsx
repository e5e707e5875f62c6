'use client'

import { useState } from 'react'
import { onDemand } from '../parts/onDemand'
import { Late } from '../lesson/Late'
import { LessonStrip } from './score/LessonStrip'
import { Side } from './Side'
import { Score } from './score/Score'
import { useSheetActions } from './actions/useSheetActions'
import styles from './sheet.module.css'

const CommandList = onDemand(() => import('./actions/CommandList').then((part) => part.CommandList))
const KeyHelp = onDemand(() => import('./actions/KeyHelp').then((part) => part.KeyHelp))
const FindBar = onDemand(() => import('./FindBar').then((part) => part.FindBar))

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
      <Late>
        <LessonStrip />
      </Late>
      <Score actions={actions} find={find && <FindBar onClose={() => setFind(false)} />} />
      <Side actions={actions} />
      {commands && <CommandList actions={actions} onClose={() => setCommands(false)} />}
      {help && <KeyHelp open onClose={() => setHelp(false)} />}
    </div>
  )
}

'use client'

import { useState } from 'react'
import { Easel } from '../easel/Easel'
import { FindBar } from './FindBar'
import { KeyHelp } from './KeyHelp'
import { LessonStrip } from './LessonStrip'
import { Panel } from './Panel'
import { Score } from './Score'
import { useSheetKeys } from './useSheetKeys'
import styles from './sheet.module.css'

/** The view in which most work is done: the steps as rows of a score, and beside them what the viewer sees. */
export function Sheet() {
  const [help, setHelp] = useState(false)
  const [find, setFind] = useState(false)
  useSheetKeys(
    () => setHelp(true),
    () => setFind(true),
  )
  return (
    <div className={styles.sheet}>
      <LessonStrip />
      <Score
        onHelp={() => setHelp(true)}
        onFind={() => setFind(true)}
        find={find && <FindBar onClose={() => setFind(false)} />}
      />
      <aside className={styles.side} aria-label="What the viewer sees, and settings">
        <Easel />
        <Panel />
      </aside>
      <KeyHelp open={help} onClose={() => setHelp(false)} />
    </div>
  )
}

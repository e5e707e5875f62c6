'use client'

import type { ReactNode } from 'react'
import { useSheetView } from './score/view'
import styles from './panel.module.css'

/** Settings that few need, behind their name. What is unfolded stays so from step to step. */
export function Fold({ name, title, children }: { name: string; title: string; children: ReactNode }) {
  const { unfolded, setUnfolded } = useSheetView()
  const isOpen = unfolded.includes(name)
  const onToggle = (open: boolean) => {
    if (open !== isOpen) setUnfolded(open ? [...unfolded, name] : unfolded.filter((one) => one !== name))
  }
  return (
    <details className={styles.fold} open={isOpen} onToggle={(event) => onToggle(event.currentTarget.open)}>
      <summary>{title}</summary>
      {isOpen && children}
    </details>
  )
}

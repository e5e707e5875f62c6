'use client'

import { Tooltip } from 'antd'
import type { ReactNode } from 'react'
import { TERMS, type Term } from './terms'
import styles from './explained.module.css'

/** A word that explains itself when it is pointed at or focused. */
export function Explained({ term, children }: { term: Term; children: ReactNode }) {
  return (
    <Tooltip title={TERMS[term]} trigger={['hover', 'focus', 'click']}>
      <button type="button" className={styles.term}>
        {children}
      </button>
    </Tooltip>
  )
}

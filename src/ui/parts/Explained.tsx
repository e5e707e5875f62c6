'use client'

import { Tooltip } from 'antd'
import type { ReactNode } from 'react'
import { say } from '@/messages/say'
import type { Term } from './terms'
import styles from './explained.module.css'

/** A word that explains itself when it is pointed at or focused. */
export function Explained({ term, children }: { term: Term; children: ReactNode }) {
  return (
    <Tooltip title={say(`terms.${term}`)} trigger={['hover', 'focus', 'click']}>
      <button type="button" className={styles.term}>
        {children}
      </button>
    </Tooltip>
  )
}

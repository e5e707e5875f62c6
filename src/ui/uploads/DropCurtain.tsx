'use client'

import { useSyncExternalStore } from 'react'
import { say } from '@/messages/say'
import { onDemand } from '../parts/onDemand'
import { areFilesExpected, subscribeToExpected } from './expected'
import { useBringIn } from './useBringIn'
import { useFileDrop } from './useFileDrop'
import styles from './curtain.module.css'

const OnTheirWay = onDemand(() => import('./OnTheirWay').then((part) => part.OnTheirWay))

/** Takes files dropped anywhere in a lesson. */
export function DropCurtain() {
  const over = useFileDrop(useBringIn())
  const expected = useSyncExternalStore(subscribeToExpected, areFilesExpected, () => false)
  return (
    <>
      {over && <div className={styles.curtain}>{say('uploads.letGoToBring')}</div>}
      {expected && <OnTheirWay />}
    </>
  )
}

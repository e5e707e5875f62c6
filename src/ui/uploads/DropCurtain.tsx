'use client'

import { useStore } from 'zustand'
import { say } from '@/messages/say'
import { onDemand } from '../parts/onDemand'
import { filesExpected } from './expected'
import { useBringIn } from './useBringIn'
import { useFileDrop } from './useFileDrop'
import styles from './curtain.module.css'

const OnTheirWay = onDemand(() => import('./OnTheirWay').then((part) => part.OnTheirWay))

/** Takes files dropped anywhere in a lesson. */
export function DropCurtain() {
  const over = useFileDrop(useBringIn())
  const expected = useStore(filesExpected)
  return (
    <>
      {over && <div className={styles.curtain}>{say('uploads.letGoToBring')}</div>}
      {expected && <OnTheirWay />}
    </>
  )
}

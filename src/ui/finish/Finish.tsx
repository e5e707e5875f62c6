'use client'

import { Findings } from './Findings'
import { MakeAndMade } from './MakeAndMade'
import styles from './finish.module.css'

/** What is to be mended, what is to be made, and what was made. */
export function Finish() {
  return (
    <div className={styles.finish}>
      <Findings />
      <MakeAndMade />
    </div>
  )
}

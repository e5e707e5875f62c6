'use client'

import { Credits } from './Credits'
import { Findings } from './Findings'
import { MakeAndMade } from './MakeAndMade'
import styles from './finish.module.css'

/** What is to be mended, what is to be made, and what was made. */
export function Finish() {
  return (
    <div className={styles.finish}>
      <div className={styles.left}>
        <Findings />
        <Credits />
      </div>
      <MakeAndMade />
    </div>
  )
}

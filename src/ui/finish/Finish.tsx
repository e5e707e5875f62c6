'use client'

import { Credits } from './Credits'
import { Findings } from './Findings'
import { Made } from './Made'
import { Make } from './Make'
import { useExports } from './useExports'
import styles from './finish.module.css'

/** Is it ready, what is to be made of it, and what was made. */
export function Finish() {
  const { made, make, remove } = useExports()
  return (
    <div className={styles.finish}>
      <div className={styles.ready}>
        <Findings />
        <Credits />
      </div>
      <Make made={made} onMake={make} />
      <Made made={made} onRemove={remove} />
    </div>
  )
}

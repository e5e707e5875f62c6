'use client'

import { Button } from 'antd'
import { useRouter } from 'next/navigation'
import type { Finding } from '@/core/check/finding'
import { clock } from '../format'
import { useDesk, useLessonState } from '../lesson/context'
import styles from './finish.module.css'

const SEVERITIES: Record<Finding['severity'], { mark: string; word: string; order: number }> = {
  fault: { mark: '!', word: 'Fault', order: 0 },
  warning: { mark: '?', word: 'Look at this', order: 1 },
  hint: { mark: 'i', word: 'Hint', order: 2 },
}

/** Mistakes found before delivery, each with the way to it. */
export function Findings() {
  const { id, store, player } = useDesk()
  const findings = useLessonState(({ mix }) => mix?.findings)
  const router = useRouter()
  const goThere = ({ stepId, at }: Finding) => {
    if (stepId) store.getState().select([stepId], { step: stepId, word: 0 })
    if (at !== undefined) player.seek(at)
    router.push(`/lessons/${id}`)
  }
  const sorted = [...(findings ?? [])].sort((a, b) => SEVERITIES[a.severity].order - SEVERITIES[b.severity].order)
  return (
    <section className={styles.card} aria-label="Findings">
      <h2>Is it ready?</h2>
      {findings === undefined && <p className={styles.note}>Looking through the lesson…</p>}
      {findings?.length === 0 && <p className={styles.good}>✓ Nothing was found that needs mending.</p>}
      {sorted.length > 0 && (
        <p className={styles.note}>
          {sorted.length === 1 ? 'One thing was found.' : `${sorted.length} things were found.`}
        </p>
      )}
      <ul className={styles.findings}>
        {sorted.map((finding, i) => (
          <li key={i}>
            <span
              className={styles.mark}
              data-severity={finding.severity}
              role="img"
              aria-label={SEVERITIES[finding.severity].word}
            >
              {SEVERITIES[finding.severity].mark}
            </span>
            <span>
              {finding.text}
              {finding.at !== undefined && <small>at {clock(finding.at)}</small>}
            </span>
            {(finding.stepId ?? finding.at) !== undefined && (
              <Button size="small" onClick={() => goThere(finding)}>
                Go there
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

'use client'

import { Button } from 'antd'
import { useRouter } from 'next/navigation'
import type { Finding, FindingCode } from '@/core/check/finding'
import { mendOf, type Mend } from '@/core/check/mends'
import { say } from '@/messages/say'
import { clock } from '../format'
import { useDesk, useFindings, useLesson } from '../lesson/context'
import styles from './finish.module.css'

const severities = (): Record<Finding['severity'], { mark: string; word: string; order: number }> => ({
  fault: { mark: '!', word: say('finish.fault'), order: 0 },
  warning: { mark: '?', word: say('finish.lookAtThis'), order: 1 },
  hint: { mark: say('finish.i'), word: say('finish.hint'), order: 2 },
})

/** Mistakes found before delivery, each with the way to it. */
export function Findings() {
  const { id, store, player } = useDesk()
  const findings = useFindings()
  const router = useRouter()
  const goThere = ({ stepId, at }: Finding) => {
    if (stepId) store.getState().select([stepId], { step: stepId, word: 0 })
    if (at !== undefined) player.seek(at)
    router.push(`/lessons/${id}`)
  }
  const sorted = [...(findings ?? [])].sort((a, b) => severities()[a.severity].order - severities()[b.severity].order)
  return (
    <section className={styles.card} aria-label={say('finish.findings')}>
      <h2>{say('finish.isItReady')}</h2>
      {findings === undefined && <p className={styles.note}>{say('finish.lookingThroughTheLesson')}</p>}
      {findings?.length === 0 && <p className={styles.good}>{say('finish.nothingWasFoundThat')}</p>}
      {sorted.length > 0 && (
        <p className={styles.note}>
          {sorted.length === 1
            ? say('finish.oneThingWasFound')
            : say('finish.thingsWereFound', { count: sorted.length })}
        </p>
      )}
      <ul className={styles.findings}>
        {byCause(sorted).map(([first, ...others]) => (
          <li key={first!.code}>
            <FindingItem finding={first!} goThere={goThere} />
            {others.length > 0 && (
              <details className={styles.others}>
                <summary>
                  {others.length === 1
                    ? say('finish.oneMoreOfThis')
                    : say('finish.moreOfThisKind', { count: others.length })}
                </summary>
                <ul className={styles.findings}>
                  {others.map((finding, i) => (
                    <li key={i}>
                      <FindingItem finding={finding} goThere={goThere} />
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** In the order they came, those of one kind together. */
function byCause(findings: readonly Finding[]): Finding[][] {
  const causes = new Map<FindingCode, Finding[]>()
  for (const one of findings) causes.set(one.code, [...(causes.get(one.code) ?? []), one])
  return [...causes.values()]
}

function FindingItem({ finding, goThere }: { finding: Finding; goThere: (finding: Finding) => void }) {
  const lesson = useLesson()
  const { severity, text, at, stepId } = finding
  return (
    <>
      <span className={styles.mark} data-severity={severity} role="img" aria-label={severities()[severity].word}>
        {severities()[severity].mark}
      </span>
      <span>
        {text}
        {at !== undefined && <small>{say('finish.at', { at: clock(at) })}</small>}
      </span>
      <span className={styles.ways}>
        <MendButton mend={mendOf(finding, lesson)} />
        {(stepId ?? at) !== undefined && (
          <Button size="small" onClick={() => goThere(finding)}>
            {say('finish.goThere')}
          </Button>
        )}
      </span>
    </>
  )
}

/** In one press, and undone like any other change. */
function MendButton({ mend }: { mend: Mend | null }) {
  const { store } = useDesk()
  if (!mend) return null
  return (
    <Button size="small" onClick={() => store.getState().edit(...mend.edits)}>
      {mend.label}
    </Button>
  )
}

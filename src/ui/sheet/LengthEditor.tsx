'use client'

import { Segmented } from 'antd'
import type { StepSpan } from '@/core/lesson/layout'
import type { Seconds } from '@/core/units'
import { useDesk } from '../lesson/context'
import { SecondsField } from '../parts/SecondsField'
import styles from './length.module.css'

const round = (time: Seconds) => Math.round(time * 10) / 10

/** The length rule of a step: follow the voice, or a fixed length. */
export function LengthEditor({ span: { step, start, end } }: { span: StepSpan }) {
  const { store } = useDesk()
  const { edit } = store.getState()
  const { length } = step
  return (
    <div className={styles.form}>
      <Segmented
        aria-label="Length rule"
        value={length.kind}
        options={[
          { value: 'voice', label: 'Follows the voice' },
          { value: 'fixed', label: 'Fixed length' },
        ]}
        onChange={(kind) =>
          edit({
            name: 'setLength',
            step: step.id,
            length: kind === 'fixed' ? { kind, length: round(end - start) } : { kind: 'voice', atLeast: 1 },
          })
        }
      />
      {length.kind === 'fixed' ? (
        <SecondsField
          label="Stays for"
          value={length.length}
          least={0.1}
          onChange={(value) => edit({ name: 'setLength', step: step.id, length: { kind: 'fixed', length: value } })}
        />
      ) : (
        <SecondsField
          label="At least"
          value={length.atLeast}
          least={0}
          onChange={(value) => edit({ name: 'setLength', step: step.id, length: { kind: 'voice', atLeast: value } })}
        />
      )}
      <SecondsField
        label="Lead-in, before the first word"
        value={step.leadIn}
        least={0}
        onChange={(leadIn) => edit({ name: 'setLeadIn', step: step.id, leadIn })}
      />
      <SecondsField
        label="Tail, after the last word"
        value={step.tail}
        least={0}
        onChange={(tail) => edit({ name: 'setTail', step: step.id, tail })}
      />
    </div>
  )
}

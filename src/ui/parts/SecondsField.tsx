'use client'

import { InputNumber } from 'antd'
import { useId, useState } from 'react'
import type { Seconds } from '@/core/units'

interface SecondsFieldProps {
  label: string
  value: Seconds
  least?: Seconds
  onChange: (value: Seconds) => void
}

const round = (time: Seconds) => Math.round(time * 10) / 10

/** A length to be typed. Counts when the field is left, on Enter or by the arrows, so that typing "12" is one change. */
export function SecondsField({ label, value, least = 0, onChange }: SecondsFieldProps) {
  const id = useId()
  const [draft, setDraft] = useState<number | null | undefined>(undefined)
  const commit = () => {
    if (typeof draft === 'number' && draft !== round(value)) onChange(draft)
    setDraft(undefined)
  }
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <InputNumber
        id={id}
        value={draft === undefined ? round(value) : draft}
        min={least}
        max={3600}
        step={0.1}
        suffix="s"
        onChange={setDraft}
        onBlur={commit}
        onPressEnter={commit}
        onStep={(next) => {
          setDraft(undefined)
          onChange(Number(next))
        }}
      />
    </>
  )
}

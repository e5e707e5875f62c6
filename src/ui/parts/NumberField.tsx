'use client'

import { InputNumber, type InputNumberProps } from 'antd'
import { useState } from 'react'

type NumberFieldProps = Omit<InputNumberProps<number>, 'value' | 'onChange' | 'onStep' | 'onBlur' | 'onPressEnter'> & {
  value: number | null
  /** null: the field was emptied. */
  onChange: (value: number | null) => void
}

/** A number to be typed. Counts when the field is left, on Enter or by the arrows, so that typing "12" is one change. */
export function NumberField({ value, onChange, ...field }: NumberFieldProps) {
  const [draft, setDraft] = useState<number | null | undefined>(undefined)
  const commit = () => {
    if (draft !== undefined && draft !== value) onChange(draft)
    setDraft(undefined)
  }
  return (
    <InputNumber<number>
      {...field}
      value={draft === undefined ? value : draft}
      onChange={setDraft}
      onBlur={commit}
      onPressEnter={commit}
      onStep={(next) => {
        setDraft(undefined)
        onChange(Number(next))
      }}
    />
  )
}

'use client'

import { InputNumber, type GetRef, type InputNumberProps } from 'antd'
import { useEffect, useRef, useState } from 'react'
import { say } from '@/messages/say'
import { decimalSign } from '../format'
import { parseNumber } from './parseNumber'

type NumberFieldProps = Omit<InputNumberProps<number>, 'value' | 'onChange' | 'onStep' | 'onBlur' | 'onPressEnter'> & {
  value: number | null
  /** null: the field was emptied. */
  onChange: (value: number | null) => void
}

/** A number to be typed. Counts when the field is left, on Enter or by the arrows, so that typing "12" is one change. */
export function NumberField({ value, onChange, ...field }: NumberFieldProps) {
  const [draft, setDraft] = useState<number | null | undefined>(undefined)
  // The field brings a number into its bounds in the very event in which it is left, but after it has told so: hence
  // the wait for that event's end, and a ref, since the state would be read too early.
  const latest = useRef<number | null | undefined>(undefined)
  const take = (next: number | null | undefined) => {
    latest.current = next
    setDraft(next)
  }
  useEffect(() => {
    if (latest.current === undefined) setDraft(undefined)
  }, [value])
  const commit = () => {
    if (latest.current !== undefined && latest.current !== value) onChange(latest.current)
    take(undefined)
  }
  const own = useRef<GetRef<typeof InputNumber>>(null)
  // The package names its arrows in English, whatever the language, and takes no other names.
  useEffect(() => {
    const arrows = own.current?.nativeElement.querySelectorAll('[role=button]') ?? []
    for (const [i, name] of [say('parts.more'), say('parts.less')].entries())
      arrows[i]?.setAttribute('aria-label', name)
  })
  return (
    <InputNumber<number>
      {...field}
      ref={own}
      parser={parseNumber}
      decimalSeparator={decimalSign()}
      value={draft === undefined ? value : draft}
      onChange={take}
      onBlur={() => queueMicrotask(commit)}
      onPressEnter={() => queueMicrotask(commit)}
      onStep={(next) => {
        // The value may come back a frame late: until then the next step goes on from this one.
        latest.current = undefined
        setDraft(Number(next))
        onChange(Number(next))
      }}
    />
  )
}

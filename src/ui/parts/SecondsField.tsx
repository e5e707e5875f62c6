'use client'

import { useId } from 'react'
import type { Seconds } from '@/core/units'
import { NumberField } from './NumberField'

interface SecondsFieldProps {
  label: string
  value: Seconds
  least?: Seconds
  most?: Seconds
  onChange: (value: Seconds) => void
}

const round = (time: Seconds) => Math.round(time * 10) / 10

/** A length to be typed. */
export function SecondsField({ label, value, least = 0, most = 3600, onChange }: SecondsFieldProps) {
  const id = useId()
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <NumberField
        id={id}
        value={round(value)}
        min={least}
        max={most}
        step={0.1}
        suffix="s"
        onChange={(next) => next !== null && onChange(next)}
      />
    </>
  )
}

import type { Seconds } from '@/core/units'

/** `1:04.2`, or `1:04` without tenths. */
export function clock(time: Seconds, tenths = true): string {
  const rounded = tenths ? Math.round(time * 10) / 10 : Math.floor(time + 1e-6)
  const minutes = Math.floor(rounded / 60)
  const seconds = rounded - minutes * 60
  return `${minutes}:${tenths ? seconds.toFixed(1).padStart(4, '0') : String(Math.floor(seconds)).padStart(2, '0')}`
}

/** A number with a true minus sign. */
export const signed = (value: number, digits = 1): string => value.toFixed(digits).replace('-', '−')

export const percent = (share: number, digits = 1): string => `${(share * 100).toFixed(digits)} %`

export function megabytes(bytes: number): string {
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`
  return bytes >= 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1e3))} kB`
}

import type { Seconds } from '@/core/units'
import { LOCALES } from '@/messages/languages'
import { decimal } from '@/messages/numbers'
import { language } from '@/messages/say'

export { decimal, decimalSign, listed } from '@/messages/numbers'

/** Numbers, lengths and sizes as they are written in the language of the interface. */

/** `1:04.2`, or `1:04` without tenths. */
export function clock(time: Seconds, tenths = true): string {
  const rounded = tenths ? Math.round(time * 10) / 10 : Math.floor(time + 1e-6)
  const minutes = Math.floor(rounded / 60)
  const seconds = rounded - minutes * 60
  return `${minutes}:${tenths ? decimal(seconds).padStart(4, '0') : String(Math.floor(seconds)).padStart(2, '0')}`
}

/** A number with a true minus sign. */
export const signed = (value: number, digits = 1): string => decimal(value, digits).replace('-', '−')

export const percent = (share: number, digits = 1): string => `${decimal(share * 100, digits)} %`

export function megabytes(bytes: number): string {
  if (bytes >= 1e9) return `${decimal(bytes / 1e9)} GB`
  return bytes >= 1e6 ? `${decimal(bytes / 1e6)} MB` : `${Math.max(1, Math.round(bytes / 1e3))} kB`
}

/** `29 Nov 2026`, from a moment as it is stored. */
export const date = (at: string | number): string => new Date(at).toLocaleDateString(locale(), { dateStyle: 'medium' })
export const timeOfDay = (at: string | number): string =>
  new Date(at).toLocaleTimeString(locale(), { timeStyle: 'short' })
export const dateAndTime = (at: string | number): string =>
  new Date(at).toLocaleString(locale(), { dateStyle: 'medium', timeStyle: 'short' })

const locale = () => LOCALES[language()]

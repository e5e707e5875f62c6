import { language } from './say'

/** Numbers and lists as they are written in the language that is spoken. */

/** With as many places after the point, or the comma. */
export const decimal = (value: number, digits = 1): string => formatOf(digits).format(value)

/** What parts whole numbers from tenths. */
export const decimalSign = (): string => decimal(0.5).charAt(1)

/** Names one after the other; they may be long. */
export const listed = (names: readonly string[]): string =>
  new Intl.ListFormat(language(), { type: 'unit', style: 'short' }).format(names)

/** They are many, and dear to make. */
const formats = new Map<string, Intl.NumberFormat>()
function formatOf(digits: number): Intl.NumberFormat {
  const key = `${language()} ${digits}`
  const known = formats.get(key)
  if (known) return known
  const options = { minimumFractionDigits: digits, maximumFractionDigits: digits, useGrouping: false }
  const made = new Intl.NumberFormat(language(), options)
  formats.set(key, made)
  return made
}

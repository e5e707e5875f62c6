import { marksAround } from './marksAround'

/**
 * How people say what is written in figures and signs, for voices that would spell it: money, fractions, dates, units and
 * addresses. Names of currencies, units and months come from the language's own data (ECMA-402 `Intl`, CLDR).
 */

/** What is said for a word as it is written; null where a voice says it rightly by itself. `before` is the word before it. */
export function sayAs(written: string, before: string | undefined, voice: string): string | null {
  const language = localeOf(voice)
  const [open, core, close] = marksAround(written, `([{"'“‘«`, `)]}"'”’».,;:!?…`)
  const said =
    money(core, language) ??
    fraction(core, language) ??
    date(core, language) ??
    measure(core, language) ??
    unitAfter(core, before, language) ??
    address(core, language)
  return said === null ? null : open + said + close
}

/** The language of a voice as `Intl` takes it: synthesisers have some of their own. */
function localeOf(voice: string): string {
  try {
    return Intl.NumberFormat.supportedLocalesOf(voice)[0] ?? 'en'
  } catch {
    return 'en'
  }
}

const CURRENCIES: Record<string, string> = { $: 'USD', '€': 'EUR', '£': 'GBP', '¥': 'JPY' }

/** `$1,234.56` is `1234 dollars 56`. */
function money(core: string, language: string): string | null {
  const [, before, amount, after] = /^([$€£¥]?)(\d[\d.,]*)([$€£¥]?)$/u.exec(core) ?? []
  const currency = CURRENCIES[before || after || '']
  const value = currency ? numberOf(amount!, language) : null
  if (value === null) return null
  const [whole, part] = [Math.floor(value), Math.round((value % 1) * 100)]
  const name = named(
    whole,
    language,
    { style: 'currency', currency, currencyDisplay: 'name', maximumFractionDigits: 0 },
    'currency',
  )
  return `${whole} ${name.replace(/^US[- ]/, '')}${part > 0 ? ` ${part}` : ''}`
}

/** A number as it is written in a language; null where it is written otherwise. */
function numberOf(text: string, language: string): number | null {
  const decimal = new Intl.NumberFormat(language).formatToParts(1.5).find(({ type }) => type === 'decimal')!.value
  const group = decimal === ',' ? '.' : ','
  const pattern = new RegExp(`^(?:\\d+|\\d{1,3}(?:\\${group}\\d{3})+)(?:\\${decimal}\\d+)?$`)
  return pattern.test(text) ? Number(text.replaceAll(group, '').replace(decimal, '.')) : null
}

/** What a unit or currency is called beside a number. */
const named = (value: number, language: string, style: Intl.NumberFormatOptions, part: 'unit' | 'currency'): string =>
  new Intl.NumberFormat(language, style)
    .formatToParts(value)
    .filter(({ type }) => type === part)
    .map((one) => one.value.trim())
    .join(' ')

const ENGLISH_PARTS = ['half', 'third', 'quarter', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth']
const GERMAN_PARTS = ['Halbe', 'Drittel', 'Viertel', 'Fünftel', 'Sechstel', 'Siebtel', 'Achtel', 'Neuntel', 'Zehntel']

/** `3/4` is `3 quarters`; what may be something else (24/7) is left alone. */
function fraction(core: string, language: string): string | null {
  const [, above, below] = /^(\d)\/(\d{1,2})$/.exec(core) ?? []
  const [count, parts] = [Number(above), Number(below)]
  if (!above || count === 0 || count >= parts || parts > 10) return null
  const name = isIn('en', language) ? ENGLISH_PARTS[parts - 2]! : isIn('de', language) ? GERMAN_PARTS[parts - 2]! : null
  if (name === null) return null
  if (isIn('de', language)) return parts === 2 ? 'ein halb' : `${count === 1 ? 'ein' : count} ${name}`
  return count === 1 ? `one ${name}` : `${count} ${name}s`
}

const isIn = (bare: string, language: string) => language.toLowerCase().split('-')[0] === bare

/** `2026-03-12`, and `12.03.2026` or `12/03/2026` as the language orders it. */
function date(core: string, language: string): string | null {
  const iso = /^(\d{4})-(\d{2})-(\d{2})$/.exec(core)
  if (iso) return spokenDate(Number(iso[1]), Number(iso[2]), Number(iso[3]), language)
  const local = /^(\d{1,2})([./])(\d{1,2})\2(\d{4})$/.exec(core)
  if (!local) return null
  const isMonthFirst = local[2] === '/' && /^en-us\b/i.test(language)
  const [day, month] = isMonthFirst ? [local[3], local[1]] : [local[1], local[3]]
  return spokenDate(Number(local[4]), Number(month), Number(day), language)
}

function spokenDate(year: number, month: number, day: number, language: string): string | null {
  const at = new Date(Date.UTC(year, month - 1, day))
  if (at.getUTCMonth() !== month - 1 || at.getUTCDate() !== day) return null
  return new Intl.DateTimeFormat(language, { dateStyle: 'long', timeZone: 'UTC' }).format(at)
}

/** Units by their signs, as `Intl` calls them. */
const UNITS: Record<string, string> = {
  mm: 'millimeter',
  cm: 'centimeter',
  m: 'meter',
  km: 'kilometer',
  ft: 'foot',
  in: 'inch',
  mi: 'mile',
  g: 'gram',
  kg: 'kilogram',
  l: 'liter',
  ml: 'milliliter',
  s: 'second',
  min: 'minute',
  h: 'hour',
  'km/h': 'kilometer-per-hour',
  'm/s': 'meter-per-second',
  '°C': 'celsius',
  '°F': 'fahrenheit',
  '°': 'degree',
}
/** English that looks like a unit after a number (`1 in 5`). */
const NO_UNITS_APART = ['in', 'mi']
const NUMBER = /^[-−]?\d[\d.,]*$/

/** `12km` and `5°C`. */
function measure(core: string, language: string): string | null {
  const [, amount, sign] = /^([-−]?\d[\d.,]*)([a-zA-Z°/]+)$/u.exec(core) ?? []
  const unit = sign && unitName(sign, amount!, language)
  return unit ? `${amount} ${unit}` : null
}

/** `m` after `12`. */
const unitAfter = (core: string, before: string | undefined, language: string): string | null =>
  before && NUMBER.test(before) && !NO_UNITS_APART.includes(core) ? unitName(core, before, language) : null

function unitName(sign: string, amount: string, language: string): string | null {
  const value = Math.abs(numberOf(amount.replace(/^[-−]/, ''), language) ?? 2)
  if (sign === 'kn' || sign === 'kt') return knots(value, language)
  const unit = UNITS[sign]
  return unit ? named(value, language, { style: 'unit', unit, unitDisplay: 'long' }, 'unit') : null
}

/** The unit of this trade that no list of units has. */
function knots(value: number, language: string): string | null {
  if (isIn('en', language)) return value === 1 ? 'knot' : 'knots'
  return isIn('de', language) ? 'Knoten' : null
}

type Sign = '.' | '/' | '-' | '_' | '@'
const SIGNS: Record<string, Record<Sign, string>> = {
  en: { '.': 'dot', '/': 'slash', '-': 'dash', _: 'underscore', '@': 'at' },
  de: { '.': 'Punkt', '/': 'Schrägstrich', '-': 'Strich', _: 'Unterstrich', '@': 'ät' },
  fr: { '.': 'point', '/': 'barre', '-': 'tiret', _: 'tiret bas', '@': 'arobase' },
  es: { '.': 'punto', '/': 'barra', '-': 'guion', _: 'guion bajo', '@': 'arroba' },
}
const ADDRESS = /^(?:https?:\/\/)?(?:[\w.+-]+@)?(?:[\w-]{2,}\.)+[a-z]{2,}(?:\/[\w./-]*)?$/u

/** `skerrow.example/tides` and `office@skerrow.example`, sign by sign. */
function address(core: string, language: string): string | null {
  const signs = SIGNS[language.toLowerCase().split('-')[0]!]
  if (!signs || !ADDRESS.test(core)) return null
  return core
    .replace(/^https?:\/\//, '')
    .replace(/\/$/, '')
    .replace(/[./_@-]/g, (sign) => ` ${signs[sign as Sign]} `)
    .replace(/\s+/g, ' ')
    .trim()
}

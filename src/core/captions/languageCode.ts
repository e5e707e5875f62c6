import { iso6392 } from 'iso-639-2'

/** The code of three letters that media files have for a BCP 47 language tag (ISO 639-2/T); `und` where there is none. */
export function languageCode(tag: string): string {
  const primary = tag.split('-')[0]!.toLowerCase()
  const found = iso6392.find(({ iso6391, iso6392B }) => iso6391 === primary || iso6392B === primary)
  return found ? (found.iso6392T ?? found.iso6392B) : 'und'
}

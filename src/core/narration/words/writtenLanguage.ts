import { francAll } from 'franc'
import { languageCode } from '@/core/captions/languageCode'

/** So many letters tell a language, and so far ahead of the usual one must another be (of 1). */
const ENOUGH = 90
const CLEAR = 0.03

const SIGNS = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/gu

/** Languages that are told apart further than by ISO 639-2: the one that is written most (ISO 639-3). */
const MOST_WRITTEN: Record<string, string> = {
  ara: 'arb',
  aze: 'azj',
  est: 'ekk',
  fas: 'pes',
  lav: 'lvs',
  mon: 'khk',
  msa: 'zlm',
  nep: 'npi',
  nor: 'nob',
  sqi: 'als',
  swa: 'swh',
  uzb: 'uzn',
  zho: 'cmn',
}

/**
 * The one of `languages` (BCP 47) that a text is written in: by its script and its commonest three letters (Cavnar and
 * Trenkle, "N-gram-based text categorization", 1994). `usual` where that is as likely, or too little is written to tell.
 */
export function writtenLanguage(text: string, languages: readonly string[], usual: string): string {
  const letters = text.replace(/[^\p{L}\p{M}]+/gu, ' ')
  // A sign that stands for a syllable or a word tells as much as several letters.
  const told = letters.length + 3 * (letters.match(SIGNS)?.length ?? 0)
  if (told < ENOUGH) return usual
  const codes = languages.map(codeOf)
  const all = francAll(letters, { minLength: 1, only: [...new Set(codes)] })
  const likely = all.find(([code, share]) => code === codeOf(usual) && share > 1 - CLEAR) ?? all[0]!
  return likely[0] === codeOf(usual) ? usual : (languages[codes.indexOf(likely[0])] ?? usual)
}

function codeOf(tag: string): string {
  const code = languageCode(tag)
  return MOST_WRITTEN[code] ?? code
}

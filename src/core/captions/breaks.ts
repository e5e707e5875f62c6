import { endsClause, endsSentence } from '@/core/narration/words/sentenceEnds'

/**
 * How bad it is to break a text between two words, 0 (the end of a sentence) to 40 (never). After BBC subtitle guidelines,
 * "break at natural points": after punctuation, before what joins, never between an article and its noun, a number and its
 * unit, or within a name. `earlier`: the word before both.
 */
export function breakCost(before: string, after: string, language: string, earlier?: string): number {
  if (endsSentence(before, after, earlier)) return 0
  if (endsClause(before)) return 3
  // An abbreviation, an initial or an ordinal is part of what follows.
  if (before.endsWith('.')) return 30
  const words = WORDS[language.slice(0, 2).toLowerCase()] ?? WORDS.en!
  const [left, right] = [bare(before), bare(after)]
  if (words.holds.has(left)) return 40
  if (/^[\d.,/]+$/.test(left) && /^[\p{L}%°€$£]/u.test(after)) return 40
  if (isName(before) && isName(after)) return 30
  if (words.joins.has(right)) return 5
  if (words.prepositions.has(right)) return 8
  return 14
}

const bare = (word: string) => word.toLocaleLowerCase().replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '')
/** Written with a capital, and not all in capitals. Of two such words after each other the second is rarely a beginning. */
const isName = (word: string) => /^\p{Lu}\p{Ll}/u.test(word.replace(/^["'“‘(]+/, ''))

interface Kinds {
  /** Nothing is broken after them. */
  holds: ReadonlySet<string>
  /** A break before them is natural. */
  joins: ReadonlySet<string>
  prepositions: ReadonlySet<string>
}

const kinds = (holds: string, joins: string, prepositions: string): Kinds => {
  const set = (text: string) => new Set(text.split(' '))
  return { holds: set(holds), joins: set(joins), prepositions: set(prepositions) }
}

const WORDS: Record<string, Kinds> = {
  en: kinds(
    'a an the my your his her its our their this that these those no every each very more most not mr mrs ms dr',
    'and or but because so if when while where which who that than then until unless although since before after',
    'of in on at to for from with by about over under into through between without against',
  ),
  de: kinds(
    'der die das den dem des ein eine einen einem einer eines mein dein sein ihr unser euer kein keine dieser diese dieses sehr nicht zu herr frau dr',
    'und oder aber denn weil dass wenn als während wo die der das welche wer bis obwohl damit sondern bevor nachdem',
    'von in im an am auf für mit bei aus nach über unter durch zwischen ohne gegen zum zur vom beim',
  ),
  fr: kinds(
    'le la les un une des du de au aux mon ton son notre votre leur ce cette ces très ne pas plus',
    'et ou mais car donc parce que si quand lorsque où qui dont puis avant après bien',
    'dans sur à pour par avec sans sous entre vers chez contre',
  ),
  es: kinds(
    'el la los las un una unos unas mi tu su nuestro este esta estos estas muy no más',
    'y e o u pero porque que si cuando mientras donde quien pues aunque antes después',
    'de en a para por con sin sobre bajo entre hacia desde contra',
  ),
}

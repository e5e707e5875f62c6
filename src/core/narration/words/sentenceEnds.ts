/** Where a text's sentences and clauses end, whatever its script (Unicode's property Sentence_Terminal). */

const CLOSING = `["'”’»)\\]」』）]*$`
const SENTENCE_MARK = new RegExp(`[\\p{Sentence_Terminal}…]${CLOSING}`, 'u')
const CLAUSE_MARK = new RegExp(`[,;:–—،؛、，；：]${CLOSING}`, 'u')
/** Only after a full stop it can be doubted. */
const FULL_STOP = /\.["'”’»)\]]*$/u

/** Never the last word of a sentence, in English and the languages around it. */
const TITLES = words('dr mr mrs ms st prof vs approx cf ca bzw evtl ggf sog vgl bspw inkl hr fr sr sra dott mme mlle')
/** Of these the stop belongs to the word where a number follows. */
const BEFORE_NUMBERS = words('no nr nos fig figs abb art bd ch chap kap p pp pg s sec sect tab vol ex núm pág cap tel')
/** May end a sentence: it goes on where the next word is written small. */
const OFTEN_AT_ENDS = words('etc usw usf inc ltd co jr sr')
/** After them a number with a stop is an ordinal, as in 'am 3. Mai'. */
const BEFORE_ORDINALS = words('am der dem den des die das vom zum zur beim im ab bis seit und jeder jede jedes')
const MONTHS = words(
  'januar februar märz april mai juni juli august september oktober november dezember jänner jan feb mär apr jun jul aug sep sept okt nov dez',
)
/** One letter and a stop, or several of them: 'J.', 'U.S.', 'e.g.', 'z.B.'. */
const INITIALS = /^(?:\p{L}\.)+$/u
/** Initials that a sentence may well end with: the next one begins with a capital letter then. */
const TIMES_OF_DAY = /^[ap]\.m\.$/iu

/**
 * Whether a sentence ends with this word, as it stands in a text without marks for a voice. `next` and `before` are the words
 * around it, undefined at the text's edges: a text's last word ends its last sentence.
 */
export function endsSentence(word: string, next?: string, before?: string): boolean {
  if (!SENTENCE_MARK.test(word)) return false
  if (next === undefined || !FULL_STOP.test(word)) return true
  const bare = withoutQuotes(word)
  if (INITIALS.test(bare)) return TIMES_OF_DAY.test(bare) && /^\p{Lu}/u.test(withoutQuotes(next))
  const stem = bare.replace(/\.$/u, '').toLocaleLowerCase()
  if (TITLES.has(stem)) return false
  if (OFTEN_AT_ENDS.has(stem)) return !/^\p{Ll}/u.test(next)
  if (BEFORE_NUMBERS.has(stem)) return !/^\p{N}/u.test(next)
  if (/^\d{1,2}$/u.test(stem)) return !isOrdinal(next, before)
  return true
}

/** A comma and its like, or a dash. */
export const endsClause = (word: string): boolean => CLAUSE_MARK.test(word)

/** A number that counts what follows: at a sentence's beginning, or as a language writes 'third'. */
const isOrdinal = (next: string, before: string | undefined): boolean =>
  before === undefined ||
  BEFORE_ORDINALS.has(before.toLocaleLowerCase()) ||
  MONTHS.has(next.toLocaleLowerCase().replace(/[^\p{L}]+$/u, '')) ||
  /^\p{Ll}/u.test(next)

const withoutQuotes = (word: string): string => word.replace(/^["'“‘(¿¡«]+/u, '').replace(/["'”’»)\]]+$/u, '')

function words(list: string): ReadonlySet<string> {
  return new Set(list.split(' '))
}

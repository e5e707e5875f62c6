import type { PassageSpan } from '@/core/lesson/timeline'
import type { TimedWord } from '@/core/messages/job'
import type { SpeechSegment } from '@/core/measure/speech'
import type { Seconds } from '@/core/units'
import { matchWords } from './matchWords'
import { phrasesOf, wordsOf } from './phrases'
import { readScript, type ScriptWord } from './script'

/** A word of a step, or a phrase nobody has written down, at its place in the lesson. */
export interface StepWord {
  /** Empty for a phrase without a script. */
  text: string
  /** Lesson time. */
  start: Seconds
  end: Seconds
  /** The passage it is said in, and where in its take. */
  passage: string
  at: { from: Seconds; to: Seconds }
  /** Its characters in the step's script. */
  script: { from: number; to: number }
  sentence: number
  /** 0..1; null where its place is only guessed. */
  confidence: number | null
}

/** What is known of the takes a step is made of. */
export interface HeardWords {
  /** Words that were found in the part of a take that a passage uses, in the take's own time; null: not looked yet. */
  wordsOf(span: PassageSpan): readonly TimedWord[] | null
  speechOf(media: string): readonly SpeechSegment[]
}

/**
 * The words of a step at their times. What was found in its takes is matched with the script as it is now; words of the
 * script that were not found stand between their neighbours, and where none of them was all places are guessed from the
 * pauses.
 */
export function stepWords(spans: readonly PassageSpan[], script: string, heard: HeardWords): StepWord[] {
  const found = spans.flatMap((span) => wordsInSpan(span, heard))
  const written = readScript(script).words
  const partner = matchWords(
    written.map(({ text }) => text),
    found.map(({ text }) => text),
  )
  return partner.some((match) => match >= 0)
    ? atTheirTimes(spans, written, found, partner)
    : guessed(spans, script, written, heard)
}

interface FoundWord {
  text: string
  span: PassageSpan
  start: Seconds
  end: Seconds
  confidence: number
}

/** A word belongs to the passage that has its middle. */
function wordsInSpan(span: PassageSpan, heard: HeardWords): FoundWord[] {
  const { passage, start, end } = span
  const to = passage.from + end - start
  return (heard.wordsOf(span) ?? [])
    .filter((word) => (word.start + word.end) / 2 >= passage.from && (word.start + word.end) / 2 < to)
    .map((word) => ({
      text: word.text,
      span,
      start: Math.max(word.start, passage.from),
      end: Math.min(word.end, to),
      confidence: word.confidence,
    }))
}

/** At least one word has a partner. */
function atTheirTimes(
  spans: readonly PassageSpan[],
  written: readonly ScriptWord[],
  found: readonly FoundWord[],
  partner: ArrayLike<number>,
): StepWord[] {
  const unread = spans.filter((span) => found.every((word) => word.span !== span))
  const words: StepWord[] = []
  for (let i = 0; i < written.length; i++) {
    const match = partner[i]!
    if (match >= 0) words.push(timed(written[i]!, found[match]!))
    else {
      let last = i
      while (last + 1 < written.length && partner[last + 1]! < 0) last++
      const before = i > 0 ? found[partner[i - 1]!]! : null
      const after = last + 1 < written.length ? found[partner[last + 1]!]! : null
      const missing = written.slice(i, last + 1)
      const own = unread.find((span) => liesBetween(span, before, after))
      words.push(...(own ? spreadOver(missing, own) : between(missing, before, after)))
      i = last
    }
  }
  return words
}

const inLesson = ({ passage, start }: PassageSpan, at: Seconds): Seconds => start + at - passage.from

function timed({ text, from, to, sentence }: ScriptWord, { span, start, end, confidence }: FoundWord): StepWord {
  return {
    text,
    start: inLesson(span, start),
    end: inLesson(span, end),
    passage: span.passage.id,
    at: { from: start, to: end },
    script: { from, to },
    sentence,
    confidence,
  }
}

/** A passage in which nothing has been found, as while its take is still looked through. */
const liesBetween = ({ start }: PassageSpan, before: FoundWord | null, after: FoundWord | null): boolean =>
  (!before || start > before.span.start) && (!after || start < after.span.start)

function spreadOver(words: readonly ScriptWord[], span: PassageSpan): StepWord[] {
  const { from } = span.passage
  const step = (span.end - span.start) / words.length
  return words.map((word, i) => guess(word, span, from + i * step, from + (i + 1) * step))
}

function guess(word: ScriptWord, span: PassageSpan, start: Seconds, end: Seconds): StepWord {
  return { ...timed(word, { text: word.text, span, start, end, confidence: 0 }), confidence: null }
}

/** Words that nobody has found share, by their letters, what is free between those that were; one of the neighbours was. */
function between(words: readonly ScriptWord[], before: FoundWord | null, after: FoundWord | null): StepWord[] {
  const free = freeBetween(before, after, words.length * USUAL_WORD)
  const total = free.reduce((sum, { from, to }) => sum + to - from, 0)
  const letters = words.reduce((sum, { text }) => sum + text.length, 0)
  let passed = 0
  return words.map((word) => {
    const length = (total * word.text.length) / letters
    const middle = passed + length / 2
    // Across a cut a word belongs to the passage that has its middle, and stays within it.
    const first = free[0]!.to - free[0]!.from
    const isFirst = free.length === 1 || middle <= first
    const part = isFirst ? free[0]! : free[1]!
    const start = part.from + passed - (isFirst ? 0 : first)
    passed += length
    return guess(word, part.span, Math.max(part.from, start), Math.min(part.to, start + length))
  })
}

/** A stretch of a passage, in its take's time. */
interface FreeTime {
  span: PassageSpan
  from: Seconds
  to: Seconds
}

/** Between two words that were found: in one passage, or in two. At a step's edge no more than is `usual`. */
function freeBetween(before: FoundWord | null, after: FoundWord | null, usual: Seconds): FreeTime[] {
  const endOf = ({ passage, start, end }: PassageSpan) => passage.from + end - start
  const stretch = (span: PassageSpan, from: Seconds, to: Seconds) => ({ span, from, to: Math.max(from, to) })
  if (before && after && before.span === after.span) return [stretch(before.span, before.end, after.start)]
  if (before && after)
    return [
      stretch(before.span, before.end, endOf(before.span)),
      stretch(after.span, after.span.passage.from, after.start),
    ]
  if (before) return [stretch(before.span, before.end, Math.min(endOf(before.span), before.end + usual))]
  const { span, start } = after!
  return [stretch(span, Math.max(span.passage.from, start - usual), start)]
}

const USUAL_WORD: Seconds = 0.3

/** Script spread over phrases; phrases alone where nothing is written. */
function guessed(
  spans: readonly PassageSpan[],
  script: string,
  written: readonly ScriptWord[],
  heard: HeardWords,
): StepWord[] {
  const byId = new Map(spans.map((span) => [span.passage.id, span]))
  return phrasesOf(spans, script, heard.speechOf).flatMap((phrase): StepWord[] => {
    const span = byId.get(phrase.passage)!
    const inTake = (time: Seconds) => time - span.start + span.passage.from
    const base = { passage: phrase.passage, confidence: null }
    const own = written.filter(({ from }) => from >= phrase.scriptFrom && from < phrase.scriptTo)
    if (own.length === 0) {
      const { start, end, scriptFrom } = phrase
      const at = { from: inTake(start), to: inTake(end) }
      return [{ ...base, text: '', start, end, at, script: { from: scriptFrom, to: scriptFrom }, sentence: 0 }]
    }
    return wordsOf(
      phrase,
      own.map(({ text }) => text),
    ).map(({ text, start, end }, i) => ({
      ...base,
      text,
      start,
      end,
      at: { from: inTake(start), to: inTake(end) },
      script: { from: own[i]!.from, to: own[i]!.to },
      sentence: own[i]!.sentence,
    }))
  })
}

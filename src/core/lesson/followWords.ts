import { matchWords } from '@/core/narration/words/matchWords'
import { readScript, type ScriptWord } from '@/core/narration/words/script'
import type { Lesson, Mark, Passage, Place, Step } from './document'
import { marksInUse, stepHearing } from './marks'

type Word = NonNullable<Mark['word']>

/**
 * The lesson with its marks where their words have gone, whatever an edit has done to script and voice. In the terms of
 * prosemirror-transform's mapping a mark is kept (its place in the take is still heard, in this step or another), moved
 * (another voice says its word: the place is guessed until the words of the take are found), or deleted: then it stays as
 * it is, and all that hangs on it is loose. Marks on which nothing hangs any more go. Further pictures go with their words.
 */
export function followWords(before: Lesson, after: Lesson): Lesson {
  if (isUntouched(before, after)) return after
  const [usedBefore, used] = [marksInUse(before), marksInUse(after)]
  const isNew = newVoice(before)
  const marks = each(
    after.marks.filter(({ id }) => used.has(id) || !usedBefore.has(id)),
    (mark) => {
      const was = before.marks.find(({ id }) => id === mark.id)
      // A mark that the edit has set is where the edit says.
      return was === mark ? followed(mark, before, after, isNew) : mark
    },
    after.marks,
  )
  const steps = withTheirWords(after.steps, marks)
  return marks === after.marks && steps === after.steps ? after : { ...after, marks, steps }
}

const isUntouched = (before: Lesson, after: Lesson): boolean =>
  (['steps', 'marks', 'sounds', 'nudges', 'bedCues'] as const).every((part) => before[part] === after[part])

function followed(mark: Mark, before: Lesson, after: Lesson, isNew: (passage: Passage) => boolean): Mark {
  const was = before.steps.find(({ id }) => id === mark.step)
  const now = after.steps.find(({ id }) => id === mark.step)
  const home = mark.place && stepHearing(after.steps, mark.place, mark.step)
  if (home && home.id !== mark.step) {
    const word = was ? wordElsewhere(was.script, home.script, mark.word) : null
    return { ...mark, step: home.id, word, guessed: word ? mark.guessed : 'word' }
  }
  if (!now || (was?.script === now.script && was.passages === now.passages)) return mark
  const word = was ? wordAfter(was.script, now.script, mark.word) : mark.word
  if (!home && word && now.passages.some(isNew))
    return { ...mark, word, place: placeOfWord(now, word), guessed: 'place' }
  return isSameWord(word, mark.word) ? mark : { ...mark, word }
}

const isSameWord = (a: Word | null, b: Word | null) => a?.character === b?.character && a?.side === b?.side

/** The word in a script that has been changed; what stands in its place where it was replaced, null where it was taken out. */
export function wordAfter(before: string, after: string, word: Word | null): Word | null {
  if (!word || before === after) return word
  const [old, now] = [readScript(before).words, readScript(after).words]
  const index = indexAt(old, word.character)
  if (index < 0) return null
  const partner = matchWords(textsOf(old), textsOf(now))
  if (partner[index]! >= 0) return { ...word, character: now[partner[index]!]!.from }
  let [first, end] = [index, index + 1]
  while (first > 0 && partner[first - 1]! < 0) first--
  while (end < old.length && partner[end]! < 0) end++
  const from = first > 0 ? partner[first - 1]! + 1 : 0
  const to = end < old.length ? partner[end]! : now.length
  if (to <= from) return null
  const share = (index - first) / (end - first)
  return { ...word, character: now[from + Math.floor(share * (to - from))]!.from }
}

/** So many words on either side tell one place of a word from another. */
const CONTEXT = 8

/** The word in the script of another step, into which it has been moved: where most of its neighbours are the same. */
function wordElsewhere(before: string, after: string, word: Word | null): Word | null {
  if (!word) return null
  const [old, now] = [textsOf(readScript(before).words).map(bare), readScript(after).words]
  const index = indexAt(readScript(before).words, word.character)
  const texts = textsOf(now).map(bare)
  let best = -1
  let most = -1
  texts.forEach((text, i) => {
    if (index < 0 || text !== old[index]) return
    let same = 0
    for (let k = 1; k <= CONTEXT && index + k < old.length && texts[i + k] === old[index + k]; k++) same++
    for (let k = 1; k <= CONTEXT && index >= k && texts[i - k] === old[index - k]; k++) same++
    if (same > most) [best, most] = [i, same]
  })
  return best < 0 ? null : { ...word, character: now[best]!.from }
}

/** The word that has a character, or the next one after it. */
const indexAt = (words: readonly ScriptWord[], character: number): number => words.findIndex(({ to }) => to > character)

const textsOf = (words: readonly ScriptWord[]): string[] => words.map(({ text }) => text)
const bare = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '')

/** Whether a passage is of a voice that was heard nowhere before. */
function newVoice(before: Lesson): (passage: Passage) => boolean {
  const heard = before.steps.flatMap((step) => step.passages)
  return ({ media, from, to }) => !heard.some((one) => one.media === media && one.from < to && one.to > from)
}

/** About where a word is said: as far into what is heard as it stands in the script. */
function placeOfWord({ script, passages }: Step, { character }: Word): Place | null {
  const whole = passages.reduce((sum, { from, to }) => sum + to - from, 0)
  let left = whole * Math.min(1, character / Math.max(1, script.trim().length))
  for (const { media, from, to } of passages) {
    if (left < to - from) return { media, at: Math.min(from + left, (from + to) / 2 + (to - from) / 4) }
    left -= to - from
  }
  const last = passages.at(-1)
  return last ? { media: last.media, at: (last.from + last.to) / 2 } : null
}

/** Further pictures and what lies over pictures stand in the step that says their marks. */
function withTheirWords(steps: readonly Step[], marks: readonly Mark[]): Lesson['steps'] {
  const home = new Map(marks.map(({ id, step }) => [id, step]))
  const there = new Set(steps.map(({ id }) => id))
  const goesTo = (step: string, mark: string | null) => {
    const to = (mark !== null && home.get(mark)) || step
    return there.has(to) ? to : step
  }
  const more = comeHome(
    steps,
    (step) => step.more,
    (step, { mark }) => goesTo(step, mark),
  )
  const layers = comeHome(
    steps,
    (step) => step.layers,
    (step, { from }) => goesTo(step, from),
  )
  if (!more && !layers) return steps as Lesson['steps']
  return steps.map((step, i) => {
    const moved = { ...step, more: more?.[i] ?? step.more, layers: layers?.[i] ?? step.layers }
    return moved.more === step.more && moved.layers === step.layers ? step : moved
  })
}

/** Each step's list with what belongs to it, step by step; null where everything is at home already. */
function comeHome<T>(
  steps: readonly Step[],
  listOf: (step: Step) => T[],
  homeOf: (step: string, item: T) => string,
): T[][] | null {
  const come = new Map<string, T[]>()
  for (const step of steps)
    for (const item of listOf(step)) {
      const to = homeOf(step.id, item)
      if (to !== step.id) come.set(to, [...(come.get(to) ?? []), item])
    }
  if (come.size === 0) return null
  return steps.map((step) => {
    const own = listOf(step)
    const stay = own.filter((item) => homeOf(step.id, item) === step.id)
    const added = come.get(step.id) ?? []
    return added.length === 0 && stay.length === own.length ? own : [...stay, ...added]
  })
}

/** The changed list; `same` itself where nothing has changed. */
function each<T>(list: readonly T[], change: (item: T) => T, same: T[]): T[] {
  const changed = list.map(change)
  return changed.length === same.length && changed.every((item, i) => item === same[i]) ? same : changed
}

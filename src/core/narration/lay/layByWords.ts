import type { Passage, Step, Take } from '@/core/lesson/document'
import type { JobResult, TimedWord } from '@/core/messages/job'
import { newTake } from '@/core/lesson/takes'
import type { Seconds } from '@/core/units'

/** The scripts of several steps as one text, and where each begins in it. */
export interface JointScript {
  text: string
  starts: number[]
}

export function jointScript(steps: readonly Pick<Step, 'script'>[]): JointScript {
  const starts: number[] = []
  let text = ''
  for (const { script } of steps) {
    if (text) text += '\n\n'
    starts.push(text.length)
    text += script
  }
  return { text, starts }
}

/** A reading laid over steps: takes, what is heard of them, and what the author should know of it. */
export interface LaidReading {
  takes: Take[]
  heard: { step: string; passages: Passage[] }[]
  /** Steps with a script over which nothing is said, and over which something else is. */
  silent: string[]
  otherwise: string[]
  /** Earlier tries that are not heard, and passages that are in no script; these are heard. */
  retakes: number
  adLibs: number
}

/** Kept before a word and after one where the take is left, if the pause is that long. */
const BEFORE: Seconds = 0.25
const AFTER: Seconds = 0.3
/** Less than this is not worth a passage of its own. */
const TOUCHING: Seconds = 0.05

/**
 * Lays one recording over steps by the words that were found in it (aligned with `jointScript(steps)`): each step gets what
 * is said of its script or instead of it, and what is said besides stays with the words before it. Of a sentence that was said several
 * times the last good one is heard; the other tries lie hidden between passages. Nothing else that is said is left out.
 */
export function layByWords(
  steps: readonly Step[],
  recording: { media: string; length: Seconds },
  found: JobResult<'align'>,
  kind: Take['kind'],
  newId: () => string,
): LaidReading {
  const runs = runsOf(found, steps)
  const takes: Take[] = []
  const heard: LaidReading['heard'] = []
  const edges = edgesOf(runs, recording.length)
  steps.forEach((step, index) => {
    const passages = runs.flatMap((run, r): Passage[] =>
      run.step === index ? [{ id: newId(), media: recording.media, ...edges[r]!, pause: 0 }] : [],
    )
    if (passages.length === 0) return
    const from = Math.min(...passages.map((passage) => passage.from))
    const to = Math.max(...passages.map((passage) => passage.to))
    takes.push(newTake(newId(), recording.media, step, { from, to }, kind))
    heard.push({ step: step.id, passages })
  })
  const heardAt = new Set(heard.map(({ step }) => step))
  const { starts } = jointScript(steps)
  const said = new Set(found.words.map((word) => steps[stepOfWord(word, starts)]!.id))
  const unsaid = steps.filter(({ id, script }) => script.trim() && !said.has(id)).map(({ id }) => id)
  return {
    takes,
    heard,
    silent: unsaid.filter((id) => !heardAt.has(id)),
    otherwise: unsaid.filter((id) => heardAt.has(id)),
    retakes: found.extra.filter((one) => one.kind === 'retake').length,
    adLibs: found.extra.filter((one) => one.kind === 'ad-lib').length,
  }
}

/** Words of one step that follow each other in the take without a try in between. */
interface Run {
  step: number
  from: Seconds
  to: Seconds
  /** Whether the run before it (of whatever step) goes on here without a cut. */
  goesOn: boolean
}

/** What is said, as it is laid: a word of the script, or speech that is in none. */
type Said = Pick<TimedWord, 'start' | 'end' | 'sentence'> & { step: number }

function runsOf(found: JobResult<'align'>, steps: readonly Step[]): Run[] {
  const runs: Run[] = []
  const tries = found.extra.filter(({ kind }) => kind === 'retake')
  const all = saidInOrder(found, steps)
  const middles = [...all, ...tries].map(({ start, end }) => (start + end) / 2).sort((a, b) => a - b)
  let sentence = NONE
  for (const said of all) {
    const { step } = said
    const last = runs.at(-1)
    const goesOn =
      last !== undefined && said.start >= last.to - TOUCHING && !isSaidBetween(middles, last.to, said.start)
    if (last && goesOn && last.step === step) last.to = Math.max(last.to, said.end)
    // Inside a sentence there is no cut.
    else if (last && last.step === step && sentence !== NONE && said.sentence === sentence)
      last.to = Math.max(last.to, said.end)
    else runs.push({ step, from: said.start, to: said.end, goesOn })
    sentence = said.sentence
  }
  return runs
}

const NONE = -1

/** The words in the script's order; what is said besides comes after the word that it follows in the recording. */
function saidInOrder({ words, extra }: JobResult<'align'>, steps: readonly Step[]): Said[] {
  const { starts } = jointScript(steps)
  const said = words.map((word): Said => ({ ...word, step: stepOfWord(word, starts) }))
  const byTime = [...said].sort((a, b) => a.start - b.start)
  const spoken = new Set(said.map(({ step }) => step))
  const isUnsaid = (index: number) => !spoken.has(index) && steps[index]!.script.trim() !== ''
  const besides = extra.filter(({ kind }) => kind === 'ad-lib')
  const after = new Map<Said | undefined, Said[]>()
  for (let next = 0; next <= byTime.length && byTime.length > 0; next++) {
    const [word, later] = [byTime[next - 1], byTime[next]]
    const between = besides.filter(({ start }) => start >= (word?.start ?? 0) && start < (later?.start ?? Infinity))
    if (between.length > 0) after.set(word, laidBetween(between, word, later, steps.length, isUnsaid))
  }
  return said.flatMap((word) => [
    ...((word === byTime[0] && after.get(undefined)) || []),
    word,
    ...(after.get(word) ?? []),
  ])
}

/**
 * Speech that is in no script, between two words: where steps between theirs are not said as they are written, it is what is
 * said instead, one after the other by time; otherwise it goes on what was said before.
 */
function laidBetween(
  extras: readonly { start: Seconds; end: Seconds }[],
  word: Said | undefined,
  later: Said | undefined,
  count: number,
  isUnsaid: (step: number) => boolean,
): Said[] {
  const [from, to] = [word ? word.step + 1 : 0, later?.step ?? count]
  const unsaid = Array.from({ length: Math.max(0, to - from) }, (_, i) => from + i).filter(isUnsaid)
  const sentence = word && word.sentence === later?.sentence ? word.sentence : NONE
  const total = extras.reduce((sum, { start, end }) => sum + end - start, 0)
  let passed = 0
  return extras.map(({ start, end }): Said => {
    const share = (passed + (end - start) / 2) / total
    passed += end - start
    return { start, end, sentence, step: unsaid[Math.floor(share * unsaid.length)] ?? (word ?? later)!.step }
  })
}

function stepOfWord({ from }: TimedWord, starts: readonly number[]): number {
  let step = 0
  while (step + 1 < starts.length && starts[step + 1]! <= from) step++
  return step
}

/** Whether a try, or words that are heard elsewhere, lie between two places; `said` are their middles, rising. */
function isSaidBetween(said: readonly Seconds[], from: Seconds, to: Seconds): boolean {
  let low = 0
  let high = said.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (said[middle]! <= from) low = middle + 1
    else high = middle
  }
  return low < said.length && said[low]! < to
}

/** Where each run is cut: in the pause between two that go on, close to its words elsewhere. */
function edgesOf(runs: readonly Run[], length: Seconds): { from: Seconds; to: Seconds }[] {
  const begins = runs.map((run, i) => {
    const gap = run.goesOn ? run.from - runs[i - 1]!.to : Infinity
    return Math.max(0, run.from - Math.min(BEFORE, Math.max(0, gap) / 2))
  })
  return runs.map((run, i) => ({
    from: begins[i]!,
    to: runs[i + 1]?.goesOn ? begins[i + 1]! : Math.min(length, run.to + AFTER),
  }))
}

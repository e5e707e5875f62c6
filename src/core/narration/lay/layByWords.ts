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
  /** Steps with a script of which nothing is said. */
  silent: string[]
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
 * is said of its script. Of a sentence that was said several times the last good one is heard; the other tries lie hidden
 * between passages.
 */
export function layByWords(
  steps: readonly Step[],
  recording: { media: string; length: Seconds },
  found: JobResult<'align'>,
  kind: Take['kind'],
  newId: () => string,
): LaidReading {
  const { starts } = jointScript(steps)
  const runs = runsOf(found, starts)
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
  const spoken = new Set(heard.map(({ step }) => step))
  return {
    takes,
    heard,
    silent: steps.filter(({ id, script }) => script.trim() && !spoken.has(id)).map(({ id }) => id),
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

function runsOf({ words, extra }: JobResult<'align'>, starts: readonly number[]): Run[] {
  const runs: Run[] = []
  const tries = extra.filter(({ kind }) => kind === 'retake')
  const said = [...words, ...tries].map(({ start, end }) => (start + end) / 2).sort((a, b) => a - b)
  let sentence = -1
  for (const word of words) {
    const step = stepOfWord(word, starts)
    const last = runs.at(-1)
    const goesOn = last !== undefined && word.start >= last.to - TOUCHING && !isSaidBetween(said, last.to, word.start)
    if (last && goesOn && last.step === step) last.to = Math.max(last.to, word.end)
    // Inside a sentence there is no cut.
    else if (last && last.step === step && word.sentence === sentence) last.to = Math.max(last.to, word.end)
    else runs.push({ step, from: word.start, to: word.end, goesOn })
    sentence = word.sentence
  }
  return runs
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

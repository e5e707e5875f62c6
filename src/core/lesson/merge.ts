import isEqual from 'fast-deep-equal'
import type { Layer } from './layers'
import type {
  BedCue,
  CaptionCorrection,
  Lesson,
  Mark,
  Narration,
  Nudge,
  Said,
  ShelfItem,
  SoundCue,
  Step,
  Take,
} from './document'

/**
 * What two windows made of one lesson, put together: a three-way merge over what the lesson consists of (steps, what is
 * said in them, takes, sounds, music, settings), not over its text. Where both changed the same thing otherwise, somebody
 * has to choose.
 */

export type Side = 'mine' | 'theirs'

/** What is shown of a side at a clash; `undefined` where that side took it away. */
interface ClashValues {
  title: string
  /** Ids. */
  order: string[]
  'step title': string
  picture: Pick<Step, 'picture' | 'more'>
  'over the picture': Layer | undefined
  edge: Step['edge']
  chapter: Step['chapter']
  length: Pick<Step, 'length' | 'leadIn' | 'tail'>
  /** Of steps after each other. */
  words: Words[]
  mark: Mark | undefined
  step: Step | undefined
  take: Take | undefined
  sound: SoundCue | undefined
  music: BedCue | undefined
  'gain line': Nudge | undefined
  caption: CaptionCorrection | undefined
  file: ShelfItem | undefined
  setting: unknown
}

type ClashKind = keyof ClashValues

/** A thing that both sides changed, each in its way. */
export type Clash = { [Kind in ClashKind]: ClashOf<Kind> }[ClashKind]

interface ClashOf<Kind extends ClashKind> {
  /** The same for the same thing of a lesson. */
  key: string
  kind: Kind
  /** The step it belongs to; null where it belongs to the whole lesson. */
  step: string | null
  mine: ClashValues[Kind]
  theirs: ClashValues[Kind]
}

export interface Merged {
  lesson: Lesson
  clashes: Clash[]
}

interface Versions<T> {
  base: T
  mine: T
  theirs: T
}

type About = Pick<Clash, 'key' | 'kind' | 'step'>
type Choose = (clash: Clash) => Side

/**
 * `base` is what both began with. All three are told in one language. `choose` says which side counts at a clash; all
 * clashes are listed, however they were decided.
 */
export function mergeLessons(lessons: Versions<Lesson>, choose: Choose = () => 'mine'): Merged {
  const clashes: Clash[] = []
  const merger = new Merger((clash) => {
    clashes.push(clash)
    return choose(clash)
  })
  return { lesson: merger.lesson(lessons), clashes }
}

/** A lesson with all that is equal in another one as the very objects of that one, so that comparing them costs little. */
export function sharing(lesson: Lesson, other: Lesson): Lesson {
  return shared(lesson, other)
}

class Merger {
  constructor(private readonly choose: Choose) {}

  lesson(lessons: Versions<Lesson>): Lesson {
    const all = both(lessons)
    const setting = <K extends keyof Lesson>(key: K): Lesson[K] =>
      this.value({ key, kind: 'setting', step: null }, all(key))
    const list = <K extends 'bedCues' | 'sounds' | 'nudges'>(key: K, kind: ClashKind): Lesson[K] =>
      this.list(key, kind, all(key) as Versions<readonly { id: string }[]>, idOf) as Lesson[K]
    const steps = this.steps(all('steps'))
    const narration = this.narration(lessons.mine.language, steps, versions(lessons, narrationOf))
    return {
      title: this.value({ key: 'title', kind: 'title', step: null }, all('title')),
      steps: steps.map((step) => ({ ...step, ...narration.said[step.id] })),
      takes: narration.takes,
      marks: narration.marks,
      cleanUp: narration.cleanUp,
      reading: narration.reading,
      captionCorrections: narration.captionCorrections,
      language: lessons.mine.language,
      mainLanguage: setting('mainLanguage'),
      others: this.others(steps, all('others')),
      bedCues: list('bedCues', 'music'),
      shelf: this.list('shelf', 'file', all('shelf'), ({ media }) => media),
      targets: this.record('targets', all('targets')),
      sounds: list('sounds', 'sound'),
      nudges: list('nudges', 'gain line'),
      pocket: setting('pocket'),
      evenStrokes: setting('evenStrokes'),
      tracks: this.record('tracks', all('tracks')),
      lengths: this.record('lengths', all('lengths')),
      frame: this.record('frame', all('frame')),
      framing: this.record('framing', all('framing')),
      look: this.record('look', all('look')),
      edge: setting('edge'),
      opening: setting('opening'),
      closing: setting('closing'),
    }
  }

  /** A thing that counts as a whole. */
  private value<T>(about: About, { base, mine, theirs }: Versions<T>): T {
    if (isSame(theirs, base) || isSame(mine, theirs)) return mine
    if (isSame(mine, base)) return theirs
    return this.choose({ ...about, mine, theirs } as Clash) === 'mine' ? mine : theirs
  }

  private record<T extends Record<string, unknown>>(key: string, records: Versions<T>): T {
    const field = (name: string) => versions(records, (one) => one[name])
    const names = Object.keys(records.mine)
    return Object.fromEntries(
      names.map((name) => [name, this.value({ key: `${key}/${name}`, kind: 'setting', step: null }, field(name))]),
    ) as T
  }

  /** Items that may come, go and change, each as a whole. */
  private list<T>(
    key: string,
    kind: ClashKind,
    lists: Versions<readonly T[]>,
    id: (item: T) => string,
    merge = (item: string, items: Versions<T>): T => this.value({ key: `${key}/${item}`, kind, step: null }, items),
    step: (item: string) => string | null = () => null,
  ): T[] {
    // Most lists were changed by one side at most, and there are many of them: one for each thing that can be undone.
    if (lists.theirs === lists.base) return [...lists.mine]
    if (lists.mine === lists.base) return [...lists.theirs]
    const items = versions(lists, (list) => new Map(list.map((item) => [id(item), item])))
    return this.order(
      key,
      versions(items, (map) => [...map.keys()]),
    ).flatMap((name): T[] => {
      const { base, mine, theirs } = versions(items, (map) => map.get(name))
      if (base && mine && theirs) return [merge(name, { base, mine, theirs })]
      const left = this.value({ key: `${key}/${name}`, kind, step: step(name) }, { base, mine, theirs })
      return left ? [left] : []
    })
  }

  /** All names of both sides, in the order of the side that changed it; what the other has more comes after its neighbour. */
  private order(key: string, orders: Versions<string[]>): string[] {
    const names = Object.values(orders).map((order: string[]) => new Set(order))
    const inAll = (name: string) => names.every((one) => one.has(name))
    const isOften = versions(orders, (order) => order.filter(inAll))
    const chosen = this.value({ key: `${key}/order`, kind: 'order', step: null }, isOften)
    const [spine, other] = chosen === isOften.mine ? [orders.mine, orders.theirs] : [orders.theirs, orders.mine]
    const merged = [...spine]
    const known = new Set(spine)
    other.forEach((name, i) => {
      if (known.has(name)) return
      merged.splice(i === 0 ? 0 : merged.indexOf(other[i - 1]!) + 1, 0, name)
      known.add(name)
    })
    return merged
  }

  private steps(steps: Versions<Step[]>): Step[] {
    const merge = (step: string, items: Versions<Step>): Step => {
      const part = <T>(kind: ClashKind, of: (one: Step) => T): T =>
        this.value({ key: `${kind}/${step}`, kind, step }, versions(items, of))
      return {
        ...items.mine,
        title: part('step title', (one) => one.title),
        ...part('picture', ({ picture, more }) => ({ picture, more })),
        layers: this.list(
          `layers/${step}`,
          'over the picture',
          versions(items, (one) => one.layers),
          idOf,
          undefined,
          () => step,
        ),
        edge: part('edge', (one) => one.edge),
        chapter: part('chapter', (one) => one.chapter),
        ...part('length', ({ length, leadIn, tail }) => ({ length, leadIn, tail })),
      }
    }
    return this.list('steps', 'step', steps, idOf, merge, (step) => step)
  }

  private narration(language: string, steps: readonly Step[], narrations: Versions<Narration>): Narration {
    const all = both(narrations)
    const marks = versions(narrations, (one) => marksByStep(one.marks))
    const words = steps.map(({ id }) => sides((side) => wordsOf(id, narrations[side], marks[side])))
    const merged = runsOf(words).flatMap((run) => this.run(language, run))
    const setting = <K extends 'cleanUp' | 'reading'>(key: K): Narration[K] =>
      this.value({ key: `${key}/${language}`, kind: 'setting', step: null }, all(key))
    return {
      said: Object.fromEntries(merged.map(({ step, said }) => [step, said])),
      takes: this.list(`takes/${language}`, 'take', all('takes'), idOf),
      marks: [...new Map(merged.flatMap((one) => one.marks).map((mark) => [mark.id, mark])).values()],
      cleanUp: setting('cleanUp'),
      reading: setting('reading'),
      captionCorrections: this.list(`captions/${language}`, 'caption', all('captionCorrections'), ({ words }) => words),
    }
  }

  /**
   * What is said in steps after each other that were changed. Words move from step to step when one is broken or joined:
   * where both sides changed the same step, all of these are taken from one side, lest words are said twice or get lost.
   */
  private run(language: string, run: readonly Versions<Words>[]): Words[] {
    const clash = run.find(
      ({ base, mine, theirs }) => !isSame(mine.said, theirs.said) && ![mine, theirs].some((side) => isSame(side, base)),
    )
    if (!clash) return run.map((one) => this.words(language, one))
    const { step } = clash.mine
    return this.value(
      { key: `words/${language}/${step}`, kind: 'words', step },
      sides((side) => run.map((one) => one[side])),
    )
  }

  private words(language: string, one: Versions<Words>): Words {
    const { base, mine, theirs } = one
    if (!isSame(mine.said, theirs.said)) return isSame(mine, base) ? theirs : mine
    const { step } = mine
    return {
      ...mine,
      marks: this.list(
        `marks/${language}/${step}`,
        'mark',
        versions(one, (side) => side.marks),
        idOf,
        undefined,
        () => step,
      ),
    }
  }

  private others(steps: readonly Step[], others: Versions<Lesson['others']>): Lesson['others'] {
    const languages = new Set([...Object.keys(others.mine), ...Object.keys(others.theirs)])
    const merged = [...languages].sort().map((language): [string, Narration | undefined] => {
      const { base, mine, theirs } = versions(others, (one) => one[language])
      if (base && mine && theirs) return [language, this.narration(language, steps, { base, mine, theirs })]
      return [language, this.value({ key: `others/${language}`, kind: 'setting', step: null }, { base, mine, theirs })]
    })
    return Object.fromEntries(merged.filter((one): one is [string, Narration] => one[1] !== undefined))
  }
}

/** What is said in a step, with the marks in it: they belong to these words, and to no others. */
export interface Words {
  step: string
  said: Said
  marks: Mark[]
}

const wordsOf = (step: string, { said }: Narration, marks: ReadonlyMap<string, Mark[]>): Words => ({
  step,
  said: said[step] ?? { script: '', passages: [] },
  marks: marks.get(step) ?? [],
})

/** Steps after each other that either side changed stand together, and each of the others alone. */
function runsOf(words: readonly Versions<Words>[]): Versions<Words>[][] {
  const runs: Versions<Words>[][] = []
  let isOpen = false
  for (const one of words) {
    const isChanged = !isSame(one.mine, one.base) || !isSame(one.theirs, one.base)
    if (isChanged && isOpen) runs.at(-1)!.push(one)
    else runs.push([one])
    isOpen = isChanged
  }
  return runs
}

function marksByStep(marks: readonly Mark[]): Map<string, Mark[]> {
  const byStep = new Map<string, Mark[]>()
  for (const mark of marks) byStep.set(mark.step, [...(byStep.get(mark.step) ?? []), mark])
  return byStep
}

const narrationOf = ({ steps, takes, marks, cleanUp, reading, captionCorrections }: Lesson): Narration => ({
  said: Object.fromEntries(steps.map(({ id, script, passages }) => [id, { script, passages }])),
  takes,
  marks,
  cleanUp,
  reading,
  captionCorrections,
})

const idOf = ({ id }: { id: string }): string => id

const sides = <T>(of: (side: keyof Versions<T>) => T): Versions<T> => ({
  base: of('base'),
  mine: of('mine'),
  theirs: of('theirs'),
})

const versions = <T, U>(all: Versions<T>, of: (one: T) => U): Versions<U> => sides((side) => of(all[side]))

const both =
  <T>(all: Versions<T>) =>
  <K extends keyof T>(key: K): Versions<T[K]> =>
    versions(all, (one) => one[key])

const isSame = (a: unknown, b: unknown): boolean => a === b || isEqual(a, b)

function shared<T>(next: T, before: unknown): T {
  if (Object.is(next, before) || typeof next !== 'object' || typeof before !== 'object' || !next || !before) return next
  if (isEqual(next, before)) return before as T
  const keyed = Array.isArray(before) ? new Map(before.map((one, i) => [nameOf(one) ?? i, one])) : null
  const earlier = (key: string, value: unknown): unknown =>
    keyed ? keyed.get(nameOf(value) ?? Number(key)) : (before as Record<string, unknown>)[key]
  const entries = Object.entries(next).map(([key, value]) => [key, shared(value, earlier(key, value))] as const)
  return (Array.isArray(next) ? entries.map(([, value]) => value) : Object.fromEntries(entries)) as T
}

const nameOf = (item: unknown): string | undefined => {
  const { id, media } = (item ?? {}) as { id?: string; media?: string }
  return id ?? media
}

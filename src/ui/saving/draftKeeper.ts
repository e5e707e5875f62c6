/** A state of the lesson to be kept, and the saves that may have stored it; null: there is nothing to keep. */
export type Kept<L> = { lesson: L; saves: readonly string[] } | null

/** Keeps one draft in this browser as it is wanted: written only where that has changed, dropped where there is none. */
export interface DraftKeeper<L> {
  /** Whether the browser has confirmed that it keeps just this. */
  isKept(wanted: Kept<L>): boolean
  /** Whether it does then; never fails. */
  keep(wanted: Kept<L>): Promise<boolean>
  /** Whether what was wanted last could not be written: it is to be asked for again. */
  hasFailed(): boolean
}

/** `found`: what the browser keeps at first. `write` is called once at a time for each thing wanted, in their order. */
export function openDraftKeeper<L>(found: Kept<L>, write: (wanted: Kept<L>) => Promise<void>): DraftKeeper<L> {
  let asked: { wanted: Kept<L>; isDone: boolean; done: Promise<boolean> } | null = {
    wanted: found,
    isDone: true,
    done: Promise.resolve(true),
  }

  async function written(wanted: Kept<L>): Promise<boolean> {
    try {
      await write(wanted)
      if (asked?.wanted === wanted) asked.isDone = true
      return true
    } catch (error) {
      console.error(error)
      if (asked?.wanted === wanted) asked = null
      return false
    }
  }

  return {
    hasFailed: () => asked === null,
    isKept: (wanted) => asked !== null && asked.isDone && isSame(wanted, asked.wanted),
    keep(wanted) {
      if (asked && isSame(wanted, asked.wanted)) return asked.done
      asked = { wanted, isDone: false, done: Promise.resolve(false) }
      return (asked.done = written(wanted))
    },
  }
}

const isSame = <L>(a: Kept<L>, b: Kept<L>): boolean =>
  a === b || (a !== null && b !== null && a.lesson === b.lesson && a.saves === b.saves)

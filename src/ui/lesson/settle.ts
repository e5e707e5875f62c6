import type { Timeline } from '@/core/lesson/timeline'

/**
 * The new timeline with every span that has not changed as the very object it was before, so that only rows that look
 * otherwise are drawn anew.
 */
export function settled(next: Timeline, before: Timeline | null): Timeline {
  if (!before) return next
  return {
    ...next,
    steps: keepSame(next.steps, before.steps),
    passages: keepSame(next.passages, before.passages),
  }
}

/** Items that are equal in all their fields to the one at the same place before, or shifted by as much as the lists differ. */
function keepSame<T extends object>(next: readonly T[], before: readonly T[]): T[] {
  const shift = before.length - next.length
  return next.map((item, i) => [before[i], before[i + shift]].find((old) => old && isAlike(old, item)) ?? item)
}

const isAlike = <T extends object>(a: T, b: T): boolean =>
  (Object.keys(b) as (keyof T)[]).every((key) => a[key] === b[key])

/** The list from before where it has the same items. */
export const keepList = <T>(next: readonly T[], before: readonly T[] | undefined): readonly T[] =>
  before && before.length === next.length && next.every((item, i) => item === before[i]) ? before : next

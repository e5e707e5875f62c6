/** An earlier version of a lesson, as it was saved. */
export interface Version {
  revision: number
  savedAt: Date
  /** Given by the author; null: none. */
  name: string | null
}

const MINUTE = 60_000 // ms
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR

/**
 * The versions that need not be kept: of the last hour all are kept, then the newest of every five minutes for a day, then
 * the newest of each day; for ever those that have a name, the first and the newest. `versions` in any order.
 */
export function expendableVersions(versions: readonly Version[], now: Date): number[] {
  const newestFirst = [...versions].sort((a, b) => b.revision - a.revision)
  const [newest, first] = [newestFirst[0]?.revision, newestFirst.at(-1)?.revision]
  const taken = new Set<string>()
  return newestFirst.flatMap(({ revision, savedAt, name }) => {
    const age = now.getTime() - savedAt.getTime()
    if (age < HOUR) return []
    const span = age < DAY ? 5 * MINUTE : DAY
    const place = `${span} ${Math.floor(savedAt.getTime() / span)}`
    const isNewestThere = !taken.has(place)
    taken.add(place)
    return isNewestThere || name !== null || revision === newest || revision === first ? [] : [revision]
  })
}

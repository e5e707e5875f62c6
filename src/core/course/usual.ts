/** What occurs most often, and first among those that occur as often; undefined where there is nothing. */
export function usual<T>(values: readonly T[]): T | undefined {
  const counts = new Map<T, number>()
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1)
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0]
}

export const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[sorted.length >> 1]!
}

/** The value that so large a share of them do not pass. */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.ceil(sorted.length * share) - 1)]!
}

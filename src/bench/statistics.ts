export const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[sorted.length >> 1]!
}

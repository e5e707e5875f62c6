/** `1,5` and `1.5` are the same; of two different marks the last one parts off the fraction. */
export function parseNumber(text = ''): number {
  const figures = text.replace(/[^\d.,\-−+]/g, '').replace('−', '-')
  const mark = Math.max(figures.lastIndexOf(','), figures.lastIndexOf('.'))
  if (mark < 0) return Number.parseFloat(figures)
  const whole = figures.slice(0, mark).replace(/[.,]/g, '')
  return Number.parseFloat(`${whole}.${figures.slice(mark + 1)}`)
}

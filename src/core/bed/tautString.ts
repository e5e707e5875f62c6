/**
 * The shortest path through a tube: at every point i the path lies within lower[i]..upper[i].
 *
 * It runs straight as long as it can and bends only where it touches an edge, so among all curves that keep
 * within the bounds it turns round least often (the taut string of Davies & Kovac, Annals of Statistics 29, 2001).
 * Needs lower[i] <= upper[i]. Starts and ends in the middle of the tube.
 */
export function tautString(lower: Float64Array, upper: Float64Array): Float64Array {
  const count = lower.length
  const path = new Float64Array(count)
  if (count === 0) return path
  const last = count - 1
  const [floor, ceiling] = [lower.slice(), upper.slice()]
  path[0] = (lower[0]! + upper[0]!) / 2
  floor[last] = ceiling[last] = (lower[last]! + upper[last]!) / 2
  let apex = 0
  while (apex < last) {
    const next = nextBend(floor, ceiling, apex, path[apex]!)
    const slope = (next.value - path[apex]!) / (next.at - apex)
    for (let i = apex + 1; i < next.at; i++) path[i] = path[apex]! + slope * (i - apex)
    path[next.at] = next.value
    apex = next.at
  }
  return path
}

/** How far one can look straight from the apex, and the corner round which the path must go on. */
function nextBend(lower: Float64Array, upper: Float64Array, apex: number, value: number) {
  const last = lower.length - 1
  let steepest = Infinity
  let steepestAt = apex
  let flattest = -Infinity
  let flattestAt = apex
  for (let i = apex + 1; i <= last; i++) {
    const up = (upper[i]! - value) / (i - apex)
    const down = (lower[i]! - value) / (i - apex)
    if (down > steepest) return { at: steepestAt, value: upper[steepestAt]! }
    if (up < flattest) return { at: flattestAt, value: lower[flattestAt]! }
    if (up <= steepest) {
      steepest = up
      steepestAt = i
    }
    if (down >= flattest) {
      flattest = down
      flattestAt = i
    }
  }
  return { at: last, value: lower[last]! }
}

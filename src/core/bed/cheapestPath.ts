/**
 * The cheapest way over time through levels, by dynamic programming (R. Bellman, Dynamic Programming, 1957).
 *
 * A way stays on its level or moves by at most `moves.length` levels a tick. Resting is free and keeps the direction;
 * `turn` is paid when it moves the other way than it last moved. All costs are whole numbers, so that every machine finds
 * the same way.
 */
export interface Ground {
  /** Lowest and highest level of each tick, both included. From each tick's band the next one's must be in reach. */
  lowest: Int32Array
  highest: Int32Array
  /** Writes what `count` levels of a tick cost, from its lowest one on. */
  costs(tick: number, lowest: number, count: number, into: Int32Array): void
  /** What a move by 1, 2 … levels costs. */
  moves: readonly number[]
  turn: number
}

/** More than any way may cost; twice that is still a whole number of 32 bits. */
const NEVER = 2 ** 30
/** Set where the direction changed: the rest is by how many levels the way moved. */
const TURNED = 0x80

/** The level of each tick. */
export function cheapestPath({ lowest, highest, costs, moves, turn }: Ground): Int32Array {
  const ticks = lowest.length
  const starts = bandStarts(lowest, highest)
  const cameUp = new Uint8Array(starts[ticks]!)
  const cameDown = new Uint8Array(starts[ticks]!)
  const widest = lowest.reduce((most, low, tick) => Math.max(most, highest[tick]! - low + 1), 0)
  const here = new Int32Array(widest)
  // What it costs to be on a level, having last moved up or down; counted from each tick's cheapest level.
  let [up, down] = [new Int32Array(widest), new Int32Array(widest)]
  let [nextUp, nextDown] = [new Int32Array(widest), new Int32Array(widest)]
  costs(0, lowest[0]!, highest[0]! - lowest[0]! + 1, here)
  up.set(here)
  down.set(here)

  for (let tick = 1; tick < ticks; tick++) {
    const shift = lowest[tick]! - lowest[tick - 1]!
    const before = highest[tick - 1]! - lowest[tick - 1]! + 1
    const width = highest[tick]! - lowest[tick]! + 1
    costs(tick, lowest[tick]!, width, here)
    let least = NEVER
    for (let level = 0; level < width; level++) {
      const at = level + shift
      const inside = at >= 0 && at < before
      let upwards = inside ? up[at]! : NEVER
      let downwards = inside ? down[at]! : NEVER
      let [fromBelow, fromAbove] = [0, 0]
      for (let move = 1; move <= moves.length; move++) {
        const cost = moves[move - 1]!
        const [below, above] = [at - move, at + move]
        if (below >= 0 && below < before) {
          const turned = down[below]! + turn < up[below]!
          const whole = cost + (turned ? down[below]! + turn : up[below]!)
          if (whole < upwards) [upwards, fromBelow] = [whole, turned ? move | TURNED : move]
        }
        if (above >= 0 && above < before) {
          const turned = up[above]! + turn < down[above]!
          const whole = cost + (turned ? up[above]! + turn : down[above]!)
          if (whole < downwards) [downwards, fromAbove] = [whole, turned ? move | TURNED : move]
        }
      }
      nextUp[level] = Math.min(NEVER, upwards + here[level]!)
      nextDown[level] = Math.min(NEVER, downwards + here[level]!)
      cameUp[starts[tick]! + level] = fromBelow
      cameDown[starts[tick]! + level] = fromAbove
      least = Math.min(least, nextUp[level]!, nextDown[level]!)
    }
    for (let level = 0; level < width; level++) {
      nextUp[level] = Math.min(NEVER, nextUp[level]! - least)
      nextDown[level] = Math.min(NEVER, nextDown[level]! - least)
    }
    ;[up, nextUp] = [nextUp, up]
    ;[down, nextDown] = [nextDown, down]
  }
  return wayBack()

  function wayBack(): Int32Array {
    const path = new Int32Array(ticks)
    const width = highest[ticks - 1]! - lowest[ticks - 1]! + 1
    let level = 0
    for (let one = 1; one < width; one++)
      if (Math.min(up[one]!, down[one]!) < Math.min(up[level]!, down[level]!)) level = one
    let rising = up[level]! <= down[level]!
    level += lowest[ticks - 1]!
    for (let tick = ticks - 1; tick >= 0; tick--) {
      path[tick] = level
      const came = (rising ? cameUp : cameDown)[starts[tick]! + level - lowest[tick]!]!
      const move = came & ~TURNED
      level -= rising ? move : -move
      if (came & TURNED) rising = !rising
    }
    return path
  }
}

/** Where each tick's band lies in one array for all, and where the last one ends. */
function bandStarts(lowest: Int32Array, highest: Int32Array): Int32Array {
  const starts = new Int32Array(lowest.length + 1)
  for (let tick = 0; tick < lowest.length; tick++) starts[tick + 1] = starts[tick]! + highest[tick]! - lowest[tick]! + 1
  return starts
}

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
  const came = { up: new Uint8Array(starts[ticks]!), down: new Uint8Array(starts[ticks]!) }
  const widest = lowest.reduce((most, low, tick) => Math.max(most, highest[tick]! - low + 1), 0)
  const here = new Int32Array(widest)
  // Levels a move or a shifted band may reach beyond the band, so that the loop need not ask.
  const margin = 2 * moves.length
  let before = newFront(widest + 2 * margin)
  let after = newFront(widest + 2 * margin)
  costs(0, lowest[0]!, highest[0]! - lowest[0]! + 1, here)
  before.up.set(here, margin)
  before.down.set(here, margin)
  enclose(before, margin, highest[0]! - lowest[0]! + 1, turn)

  for (let tick = 1; tick < ticks; tick++) {
    const width = highest[tick]! - lowest[tick]! + 1
    costs(tick, lowest[tick]!, width, here)
    const shift = margin + lowest[tick]! - lowest[tick - 1]!
    const least = advance(before, after, { shift, margin, width, here, moves, came, start: starts[tick]! })
    for (let at = margin; at < margin + width; at++) {
      after.up[at] = Math.min(NEVER, after.up[at]! - least)
      after.down[at] = Math.min(NEVER, after.down[at]! - least)
    }
    enclose(after, margin, width, turn)
    ;[before, after] = [after, before]
  }
  return wayBack(before, came, starts, { lowest, highest, margin })
}

/** What it costs to be on a level, counted from the tick's cheapest one. */
interface Front {
  /** Having last moved up, or down. */
  up: Int32Array
  down: Int32Array
  /** Before moving up or down from there: where that turns round, the turn is paid. */
  toUp: Int32Array
  toDown: Int32Array
}

const newFront = (length: number): Front => ({
  up: new Int32Array(length).fill(NEVER),
  down: new Int32Array(length).fill(NEVER),
  toUp: new Int32Array(length).fill(NEVER),
  toDown: new Int32Array(length).fill(NEVER),
})

/** Closes a front at both edges of its band, and reckons what moves from it cost. */
function enclose({ up, down, toUp, toDown }: Front, margin: number, width: number, turn: number): void {
  for (const front of [up, down, toUp, toDown]) {
    front.fill(NEVER, 0, margin)
    front.fill(NEVER, margin + width)
  }
  for (let at = margin; at < margin + width; at++) {
    toUp[at] = Math.min(up[at]!, down[at]! + turn)
    toDown[at] = Math.min(down[at]!, up[at]! + turn)
  }
}

interface Step {
  shift: number
  margin: number
  width: number
  here: Int32Array
  moves: readonly number[]
  came: { up: Uint8Array; down: Uint8Array }
  start: number
}

/** One tick further; returns the cost of its cheapest level. */
function advance(before: Front, after: Front, { shift, margin, width, here, moves, came, start }: Step): number {
  const { up, down, toUp, toDown } = before
  let least = NEVER
  for (let level = 0; level < width; level++) {
    const at = level + shift
    let rising = up[at]!
    let falling = down[at]!
    let climbed = 0
    let sunk = 0
    for (let move = 1; move <= moves.length; move++) {
      const cost = moves[move - 1]!
      const fromBelow = toUp[at - move]! + cost
      const fromAbove = toDown[at + move]! + cost
      if (fromBelow < rising) {
        rising = fromBelow
        climbed = toUp[at - move]! < up[at - move]! ? move | TURNED : move
      }
      if (fromAbove < falling) {
        falling = fromAbove
        sunk = toDown[at + move]! < down[at + move]! ? move | TURNED : move
      }
    }
    rising += here[level]!
    falling += here[level]!
    after.up[margin + level] = rising
    after.down[margin + level] = falling
    came.up[start + level] = climbed
    came.down[start + level] = sunk
    if (rising < least) least = rising
    if (falling < least) least = falling
  }
  return least
}

function wayBack(
  { up, down }: Front,
  came: Step['came'],
  starts: Int32Array,
  { lowest, highest, margin }: Pick<Ground, 'lowest' | 'highest'> & { margin: number },
): Int32Array {
  const last = lowest.length - 1
  const path = new Int32Array(lowest.length)
  const cost = (level: number) => Math.min(up[margin + level]!, down[margin + level]!)
  let best = 0
  for (let level = 1; level <= highest[last]! - lowest[last]!; level++) if (cost(level) < cost(best)) best = level
  let rising = up[margin + best]! <= down[margin + best]!
  let level = lowest[last]! + best
  for (let tick = last; tick >= 0; tick--) {
    path[tick] = level
    const way = (rising ? came.up : came.down)[starts[tick]! + level - lowest[tick]!]!
    const move = way & ~TURNED
    level -= rising ? move : -move
    if (way & TURNED) rising = !rising
  }
  return path
}

/** Where each tick's band lies in one array for all, and where the last one ends. */
function bandStarts(lowest: Int32Array, highest: Int32Array): Int32Array {
  const starts = new Int32Array(lowest.length + 1)
  for (let tick = 0; tick < lowest.length; tick++) starts[tick + 1] = starts[tick]! + highest[tick]! - lowest[tick]! + 1
  return starts
}

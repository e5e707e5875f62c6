import { FRONT_MODULE } from './frontModule'

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
  /** What it costs to be on a level is the sum of these. */
  prices: readonly Prices[]
  /** What a move by 1, 2 … levels costs. */
  moves: readonly number[]
  turn: number
}

/** Costs that stand in a table: level `n` of a tick costs `table[at[tick] + n]`, and nothing where `at` is FREE. */
export interface Prices {
  table: Int32Array
  at: Int32Array
}
export const FREE = -(2 ** 31)

/** More than any way may cost; twice that is still a whole number of 32 bits. Also in front.wat. */
const NEVER = 2 ** 30
/** Set where the direction changed: the rest is by how many levels the way moved. */
const TURNED = 0x80
/** So many levels are reckoned at a time. */
const LANES = 4

/** The level of each tick. */
export function cheapestPath({ lowest, highest, prices, moves, turn }: Ground): Int32Array {
  const starts = bandStarts(lowest, highest)
  const widest = lowest.reduce((most, low, tick) => Math.max(most, highest[tick]! - low + 1), 0)
  // Levels a move or a shifted band may reach beyond the band.
  const margin = 2 * moves.length
  const { walk, ints, bytes, place } = roomFor({ lowest, prices, widest, margin, levels: starts.at(-1)! })
  ints.fill(NEVER, 0, place.lowest)
  ints.set(lowest, place.lowest)
  ints.set(highest, place.highest)
  ints.set(moves, place.moves)
  layOut(prices, lowest, ints, { ...place, widest })
  for (let level = 0; level <= highest[0]! - lowest[0]!; level++) {
    const cost = prices.reduce((sum, _, kind) => sum + ints[ints[place.prices + kind]! / 4 + level]!, 0)
    for (let row = 0; row < ROWS; row++) ints[row * place.row + margin + level] = cost
  }
  const end = walk(
    lowest.length,
    4 * place.lowest,
    4 * place.highest,
    4 * margin,
    4 * place.row,
    4 * widest,
    4 * place.prices,
    4 * prices.length,
    4 * place.moves,
    moves.length,
    turn,
    place.climbed,
    place.sunk,
  )
  const up = ints.subarray(end / 4)
  const down = ints.subarray(end / 4 + place.row)
  const came = { up: bytes.subarray(place.climbed), down: bytes.subarray(place.sunk) }
  return wayBack(up, down, came, starts, lowest, highest)
}

/** Puts the tables into the module's memory, and for each tick where in them its lowest level stands (as bytes). */
function layOut(
  prices: readonly Prices[],
  lowest: Int32Array,
  ints: Int32Array,
  { free, widest, tables, prices: into }: { free: number; widest: number; tables: number; prices: number },
): void {
  ints.fill(0, free, free + widest + LANES)
  let from = tables
  for (const [kind, { table, at }] of prices.entries()) {
    ints.set(table, from)
    for (let tick = 0, i = into + kind; tick < lowest.length; tick++, i += prices.length)
      ints[i] = 4 * (at[tick] === FREE ? free : from + at[tick]! + lowest[tick]!)
    from += table.length
  }
}

/** A front is what it costs to be on a level having last moved up, or down, and to move from it up, or down (front.wat). */
const ROWS = 4

interface Module {
  memory: WebAssembly.Memory
  walk(...args: number[]): number
}

interface Needs {
  lowest: Int32Array
  prices: readonly Prices[]
  widest: number
  margin: number
  levels: number
}

/** Where everything lies in the module's memory: whole numbers of 32 bits by their index, moves that were made by their byte. */
function roomFor({ lowest: { length: ticks }, prices: kinds, widest, margin, levels }: Needs) {
  const row = widest + 2 * margin + 2 * LANES
  // Two fronts come first: the one before, and the one after.
  const lowest = 2 * ROWS * row
  const highest = lowest + ticks
  const moves = highest + ticks
  const prices = moves + margin
  const free = prices + ticks * kinds.length
  const tables = free + widest + LANES
  const climbed = 4 * (tables + kinds.reduce((sum, { table }) => sum + table.length, LANES))
  const sunk = climbed + levels
  const { memory, walk } = (loaded ??= load())
  memory.grow(Math.max(0, Math.ceil((sunk + levels - memory.buffer.byteLength) / PAGE)))
  return {
    walk,
    ints: new Int32Array(memory.buffer),
    bytes: new Uint8Array(memory.buffer),
    place: { row, lowest, highest, moves, prices, free, tables, climbed, sunk },
  }
}

const PAGE = 65536
/** One for all paths, one after the other: its memory is as large as the longest needs. */
let loaded: Module | undefined
const load = () =>
  new WebAssembly.Instance(
    new WebAssembly.Module(Uint8Array.from(atob(FRONT_MODULE), (letter) => letter.charCodeAt(0))),
  ).exports as unknown as Module

function wayBack(
  up: Int32Array,
  down: Int32Array,
  came: { up: Uint8Array; down: Uint8Array },
  starts: Int32Array,
  lowest: Int32Array,
  highest: Int32Array,
): Int32Array {
  const last = lowest.length - 1
  const path = new Int32Array(lowest.length)
  const cost = (level: number) => Math.min(up[level]!, down[level]!)
  let best = 0
  for (let level = 1; level <= highest[last]! - lowest[last]!; level++) if (cost(level) < cost(best)) best = level
  let rising = up[best]! <= down[best]!
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

/** Where each tick's band lies in one array for all, and where the last one ends: each has room for whole lanes. */
function bandStarts(lowest: Int32Array, highest: Int32Array): Int32Array {
  const starts = new Int32Array(lowest.length + 1)
  for (let tick = 0; tick < lowest.length; tick++) {
    const width = highest[tick]! - lowest[tick]! + 1
    starts[tick + 1] = starts[tick]! + Math.ceil(width / LANES) * LANES
  }
  return starts
}

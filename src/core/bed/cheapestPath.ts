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
  /** Writes what `count` levels of a tick cost, from its lowest one on. */
  costs(tick: number, lowest: number, count: number, into: Int32Array): void
  /** What a move by 1, 2 … levels costs. */
  moves: readonly number[]
  turn: number
}

/** More than any way may cost; twice that is still a whole number of 32 bits. Also in front.wat. */
const NEVER = 2 ** 30
/** What stands behind the last level of a tick is no way. */
const WALL = NEVER / 2
/** Set where the direction changed: the rest is by how many levels the way moved. */
const TURNED = 0x80
/** Four levels are reckoned at a time: so many values may be read and written behind the last one. */
const SPARE = 4

/** The level of each tick. */
export function cheapestPath({ lowest, highest, costs, moves, turn }: Ground): Int32Array {
  const ticks = lowest.length
  const starts = bandStarts(lowest, highest)
  const widest = lowest.reduce((most, low, tick) => Math.max(most, highest[tick]! - low + 1), 0)
  // Levels a move or a shifted band may reach beyond the band.
  const margin = 2 * moves.length
  const { advance, ints, bytes, place } = roomFor(widest, margin, starts[ticks]!)
  const here = ints.subarray(place.here, place.here + widest + SPARE)
  ints.fill(NEVER, 0, place.here)
  ints.set(moves, place.moves)
  let [before, after] = place.fronts

  const first = highest[0]! - lowest[0]! + 1
  costs(0, lowest[0]!, first, here)
  for (let row = 0; row < ROWS; row++) ints.set(here.subarray(0, first), before + row * place.row + margin)
  for (let tick = 1; tick < ticks; tick++) {
    const width = highest[tick]! - lowest[tick]! + 1
    costs(tick, lowest[tick]!, width, here)
    here.fill(WALL, width, width + SPARE)
    advance(
      4 * (before + margin + lowest[tick]! - lowest[tick - 1]!),
      4 * (after + margin),
      4 * place.row,
      4 * width,
      4 * (widest + margin + SPARE),
      4 * place.here,
      4 * place.moves,
      moves.length,
      turn,
      place.climbed + starts[tick]!,
      place.sunk + starts[tick]!,
    )
    ;[before, after] = [after, before]
  }
  const up = ints.subarray(before + margin)
  const down = ints.subarray(before + place.row + margin)
  const came = { up: bytes.subarray(place.climbed), down: bytes.subarray(place.sunk) }
  return wayBack(up, down, came, starts, lowest, highest)
}

/** A front is what it costs to be on a level having last moved up, or down, and to move from it up, or down (front.wat). */
const ROWS = 4

interface Module {
  memory: WebAssembly.Memory
  advance(...args: number[]): void
}

/** Where everything lies in the module's memory: whole numbers of 32 bits by their index, moves that were made by their byte. */
function roomFor(widest: number, margin: number, levels: number) {
  const row = widest + 2 * margin + 2 * SPARE
  const here = 2 * ROWS * row
  const movesAt = here + widest + SPARE
  const climbed = 4 * (movesAt + margin)
  const sunk = climbed + levels + SPARE
  const { memory, advance } = (loaded ??= load())
  memory.grow(Math.max(0, Math.ceil((sunk + levels + SPARE - memory.buffer.byteLength) / PAGE)))
  return {
    advance,
    ints: new Int32Array(memory.buffer),
    bytes: new Uint8Array(memory.buffer),
    place: { row, fronts: [0, ROWS * row] as [number, number], here, moves: movesAt, climbed, sunk },
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

/** Where each tick's band lies in one array for all, and where the last one ends. */
function bandStarts(lowest: Int32Array, highest: Int32Array): Int32Array {
  const starts = new Int32Array(lowest.length + 1)
  for (let tick = 0; tick < lowest.length; tick++) starts[tick + 1] = starts[tick]! + highest[tick]! - lowest[tick]! + 1
  return starts
}

import { seededRandom } from '@/core/random'
import { cheapestPath, type Ground } from './cheapestPath'

const MOVES = [3, 9]
const TURN = 25

/** Ground of the same costs in a band of 5 levels that wanders. */
function ground(ticks: number, costOf: (tick: number, level: number) => number): Ground {
  const lowest = Int32Array.from({ length: ticks }, (_, tick) => Math.round(2 * Math.sin(tick)))
  return {
    lowest,
    highest: lowest.map((level) => level + 4),
    costs(tick, first, count, into) {
      for (let i = 0; i < count; i++) into[i] = costOf(tick, first + i)
    },
    moves: MOVES,
    turn: TURN,
  }
}

/** What a way costs, reckoned once more by the rule as it is told. */
function priceOf(path: readonly number[], costOf: (tick: number, level: number) => number): number {
  let price = 0
  let last = 0
  path.forEach((level, tick) => {
    price += costOf(tick, level)
    const move = tick === 0 ? 0 : level - path[tick - 1]!
    if (move === 0) return
    price += MOVES[Math.abs(move) - 1] ?? Infinity
    if (last !== 0 && Math.sign(move) !== last) price += TURN
    last = Math.sign(move)
  })
  return price
}

/** The least price of all ways there are. */
function leastPrice({ lowest, highest }: Ground, costOf: (tick: number, level: number) => number): number {
  let least = Infinity
  const walk = (path: number[]) => {
    if (path.length === lowest.length) {
      least = Math.min(least, priceOf(path, costOf))
      return
    }
    const tick = path.length
    for (let level = lowest[tick]!; level <= highest[tick]!; level++)
      if (tick === 0 || Math.abs(level - path[tick - 1]!) <= MOVES.length) walk([...path, level])
  }
  walk([])
  return least
}

test.each([1, 2, 3, 4, 5, 6])('no way is cheaper than the one found (%i)', (seed) => {
  const random = seededRandom(seed)
  const costs = Array.from({ length: 7 }, () => Array.from({ length: 12 }, () => Math.floor(random() * 30)))
  const costOf = (tick: number, level: number) => costs[tick]![level + 4]!
  const one = ground(7, costOf)
  const path = [...cheapestPath(one)]
  expect(priceOf(path, costOf)).toBe(leastPrice(one, costOf))
})

test('a way of many hours does not run out of numbers', () => {
  const flat = { ...ground(400_000, () => 60_000), lowest: new Int32Array(400_000) }
  flat.highest = flat.lowest.map(() => 4)
  const path = cheapestPath(flat)
  expect(path.every((level) => level === path[0])).toBe(true)
})

test('it rests where moving and coming back would cost more than being off for a while', () => {
  const off = (tick: number, level: number) => (level === (tick >= 10 && tick < 14 ? 1 : 0) ? 0 : 2)
  expect([
    ...cheapestPath({ ...ground(30, off), lowest: new Int32Array(30), highest: new Int32Array(30).fill(3) }),
  ]).toEqual(new Array(30).fill(0))
})

import { compileText } from '../../../scripts/build-wasm.mjs'
import { seededRandom } from '@/core/random'
import { cheapestPath, FREE, type Ground, type Prices } from './cheapestPath'
import { FRONT_MODULE } from './frontModule'

const MOVES = [3, 9]
const TURN = 25

/** Ground of the same costs in a band of 5 levels that wanders. */
function ground(ticks: number, costOf: (tick: number, level: number) => number): Ground {
  const lowest = Int32Array.from({ length: ticks }, (_, tick) => Math.round(2 * Math.sin(tick)))
  return {
    lowest,
    highest: lowest.map((level) => level + 4),
    prices: inTwoParts(ticks, costOf),
    moves: MOVES,
    turn: TURN,
  }
}

const [FIRST, LEVELS] = [-4, 64]

/** The one is asked for at every tick, the other only at every other one. */
function inTwoParts(ticks: number, costOf: (tick: number, level: number) => number): Prices[] {
  const isBoth = (tick: number) => tick % 2 === 0
  const part = (share: (tick: number, cost: number) => number) =>
    Int32Array.from({ length: ticks * LEVELS }, (_, i) => {
      const tick = Math.floor(i / LEVELS)
      return share(tick, costOf(tick, FIRST + (i % LEVELS)))
    })
  const rowOf = (tick: number) => tick * LEVELS - FIRST
  return [
    {
      table: part((tick, cost) => (isBoth(tick) ? cost - 7 : cost)),
      at: Int32Array.from({ length: ticks }, (_, tick) => rowOf(tick)),
    },
    { table: part(() => 7), at: Int32Array.from({ length: ticks }, (_, tick) => (isBoth(tick) ? rowOf(tick) : FREE)) },
  ]
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

/** The same for bands too wide to try all ways: the least price of each level and direction, tick by tick. */
function leastPriceOfWide({ lowest, highest }: Ground, costOf: (tick: number, level: number) => number): number {
  let front = new Map<string, { level: number; last: number; price: number }>()
  for (let level = lowest[0]!; level <= highest[0]!; level++)
    front.set(`${level} 0`, { level, last: 0, price: costOf(0, level) })
  for (let tick = 1; tick < lowest.length; tick++) {
    const next: typeof front = new Map()
    for (const { level: from, last, price } of front.values())
      for (let move = -MOVES.length; move <= MOVES.length; move++) {
        const level = from + move
        if (level < lowest[tick]! || level > highest[tick]!) continue
        const sign = Math.sign(move)
        const turns = sign !== 0 && last !== 0 && sign !== last
        const paid = price + costOf(tick, level) + (sign === 0 ? 0 : MOVES[Math.abs(move) - 1]!) + (turns ? TURN : 0)
        const state = { level, last: sign || last, price: paid }
        const key = `${level} ${state.last}`
        if (paid < (next.get(key)?.price ?? Infinity)) next.set(key, state)
      }
    front = next
  }
  return Math.min(...[...front.values()].map(({ price }) => price))
}

test.each([1, 2, 3, 4, 6, 7, 17, 40])('nor in a band of %i levels', (width) => {
  const random = seededRandom(width)
  const costs = Array.from({ length: 200 }, () => Array.from({ length: 60 }, () => Math.floor(random() * 30)))
  const costOf = (tick: number, level: number) => costs[tick]![level + 4]!
  const wandering = ground(200, costOf)
  // From a band that is narrower than its steps the next one would be out of reach.
  const lowest = width < 3 ? wandering.lowest.map(() => 0) : wandering.lowest
  const one = { ...wandering, lowest, highest: lowest.map((level) => level + width - 1) }
  const path = [...cheapestPath(one)]
  expect(priceOf(path, costOf)).toBe(leastPriceOfWide(one, costOf))
})

test('the module is what its text says', async () => {
  expect(await compileText('src/core/bed/front')).toBe(FRONT_MODULE)
})

test('a way of many hours does not run out of numbers', () => {
  const ticks = 400_000
  const prices = [{ table: new Int32Array(5).fill(60_000), at: new Int32Array(ticks) }]
  const flat = { ...ground(1, () => 0), lowest: new Int32Array(ticks), highest: new Int32Array(ticks).fill(4), prices }
  const path = cheapestPath(flat)
  expect(path.every((level) => level === path[0])).toBe(true)
})

test('it rests where moving and coming back would cost more than being off for a while', () => {
  const off = (tick: number, level: number) => (level === (tick >= 10 && tick < 14 ? 1 : 0) ? 0 : 2)
  expect([
    ...cheapestPath({ ...ground(30, off), lowest: new Int32Array(30), highest: new Int32Array(30).fill(3) }),
  ]).toEqual(new Array(30).fill(0))
})

import { RIDE_RATE } from './ride'
import { whileSpoken } from './whileSpoken'

test('it is open before the voice sets in, stays over pauses in which the music does not swell, and moves slowly', () => {
  const amount = whileSpoken(
    [
      { start: 3, end: 5 },
      { start: 7.9, end: 10 },
      { start: 13.1, end: 14 },
    ],
    3,
    20 * RIDE_RATE,
  )
  const value = (time: number) => amount[Math.round(time * RIDE_RATE)]!
  expect([2, 3, 6.5, 10, 11.5, 13.1, 15].map(value)).toEqual([0, 1, 1, 1, 0, 1, 0])
  const steepest = amount.reduce((most, one, i) => (i ? Math.max(most, Math.abs(one - amount[i - 1]!)) : 0), 0)
  expect(steepest).toBeLessThan(0.3)
})

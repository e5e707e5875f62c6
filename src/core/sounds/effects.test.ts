import { HOUSE_RATE } from '@/core/units'
import { EFFECTS, findEffects } from './effects'

test('every effect is as long as it says, at the same level, and ends without a click', () => {
  for (const { id, length, make } of EFFECTS) {
    const sound = make()
    expect([id, sound.length]).toEqual([id, Math.round(length * HOUSE_RATE)])
    const loudest = sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
    expect(loudest).toBeGreaterThan(0.25)
    expect(loudest).toBeLessThanOrEqual(0.502)
    expect(Math.abs(sound.at(-1)!)).toBeLessThan(1e-3)
    expect(Number.isFinite(sound.reduce((sum, value) => sum + value, 0))).toBe(true)
  }
  expect(new Set(EFFECTS.map(({ id }) => id)).size).toBe(EFFECTS.length)
})

test('effects are found by what one would call them', () => {
  expect(findEffects('bell').map(({ id }) => id)).toEqual(['bell', 'two-bells'])
  expect(findEffects('water sea').map(({ id }) => id)).toEqual(['wave'])
  expect(findEffects('').length).toBe(EFFECTS.length)
  expect(findEffects('trombone')).toEqual([])
})

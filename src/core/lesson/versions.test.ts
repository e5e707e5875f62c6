import { expendableVersions, type Version } from './versions'

const now = new Date('2026-11-27T12:00:00Z')
const MINUTE = 60_000
/** A version a minute for so many minutes, the newest a minute ago; the oldest is the first. */
const everyMinute = (minutes: number): Version[] =>
  Array.from({ length: minutes }, (_, i) => ({
    revision: minutes - i,
    savedAt: new Date(now.getTime() - (i + 1) * MINUTE),
    name: null,
  }))
const kept = (versions: Version[]) => {
  const gone = new Set(expendableVersions(versions, now))
  return versions.filter(({ revision }) => !gone.has(revision))
}

test('of the last hour every version stays', () => {
  expect(kept(everyMinute(59))).toHaveLength(59)
})

test('for a day one stays of every five minutes, then one of each day; the first is among them', () => {
  const versions = everyMinute(4 * 24 * 60)
  const ages = kept(versions).map(({ savedAt }) => (now.getTime() - savedAt.getTime()) / MINUTE)
  expect(ages.filter((age) => age < 60)).toHaveLength(59)
  const today = ages.filter((age) => age >= 60 && age < 24 * 60)
  expect(today.length).toBeGreaterThanOrEqual((23 * 60) / 5)
  expect(today.length).toBeLessThanOrEqual((23 * 60) / 5 + 1)
  const older = ages.filter((age) => age >= 24 * 60)
  expect(older.length).toBeLessThanOrEqual(5)
  expect(kept(versions).map(({ revision }) => revision)).toContain(1)
})

test('a version of yesterday is in reach however much was changed since', () => {
  const yesterday = { revision: 1, savedAt: new Date('2026-11-26T11:00:00Z'), name: null }
  const since = everyMinute(59).map((one) => ({ ...one, revision: one.revision + 1 }))
  expect(kept([yesterday, ...since])).toContainEqual(yesterday)
})

test('what has a name stays for ever, and thinned once more nothing goes', () => {
  const versions = everyMinute(600)
  const named = versions.find(({ revision }) => revision === 101)!
  named.name = 'Before the new deck'
  const left = kept(versions)
  expect(left).toContain(named)
  expect(kept(left)).toEqual(left)
})

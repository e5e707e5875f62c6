import { NEVER_HERE, readVisit, shareOf, together, written } from './visit'

test('what was played in several visits counts once', () => {
  const first = [
    { start: 0, end: 30 },
    { start: 60, end: 61 },
  ]
  const all = together(first, [
    { start: 29.95, end: 40 },
    { start: 10, end: 12 },
  ])
  expect(all).toEqual([
    { start: 0, end: 40 },
    { start: 60, end: 61 },
  ])
  expect(shareOf(all, 82)).toBeCloseTo(0.5, 9)
  expect(shareOf([{ start: 0, end: 90 }], 82)).toBe(1)
})

test('a visit that is written is read again, to a tenth of a second', () => {
  const visit = {
    place: 12.34,
    played: [
      { start: 0, end: 12.3 },
      { start: 600.5, end: 3599.9 },
    ],
  }
  const again = readVisit(written(visit, 3600, 4000), 3600.2)
  expect(again.place).toBeCloseTo(12.3, 9)
  again.played.forEach(({ start, end }, i) => {
    expect(start).toBeCloseTo(visit.played[i]!.start, 9)
    expect(end).toBeCloseTo(visit.played[i]!.end, 9)
  })
})

test('where there is little room the shortest stretches are left out, and what is written stays readable', () => {
  const played = Array.from({ length: 900 }, (_, i) => ({ start: i * 8, end: i * 8 + 1 + (i % 5) }))
  const text = written({ place: 7000, played }, 7200, 4096)
  expect(text.length).toBeLessThanOrEqual(4096)
  const kept = readVisit(text, 7200).played
  expect(kept.length).toBeGreaterThan(300)
  expect(Math.min(...kept.map(({ start, end }) => end - start))).toBeGreaterThanOrEqual(3)
})

test.each([null, '', 'nonsense', '12', 'zz zz zz-'])('of "%s" nothing is known', (text) => {
  expect(readVisit(text, 60)).toEqual(NEVER_HERE)
})

test('what was played of a lesson that has changed is not of this one', () => {
  expect(readVisit(written({ place: 3, played: [{ start: 0, end: 50 }] }, 60, 100), 75)).toEqual(NEVER_HERE)
})

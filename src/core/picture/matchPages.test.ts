import { seededRandom } from '@/core/random'
import { matchPages, type PagePrint } from './matchPages'

/** A white page with some dark cells, and a text. */
function page(seed: number, text: string): PagePrint {
  const random = seededRandom(seed)
  const pixels = new Float32Array(1296).fill(1)
  for (let i = 0; i < 220; i++) pixels[Math.floor(random() * 1296)] = 0.2
  return { text, pixels }
}
const deck = [
  page(1, 'Leaving a berth'),
  page(2, 'Wind or tide: which is stronger'),
  page(3, 'Ready before the engine'),
  page(4, ''),
]
const changes = (old: PagePrint[], now: PagePrint[]) =>
  matchPages(old, now).map((one) => [one.old, one.now, one.change])

test('the same deck is the same', () => {
  expect(changes(deck, deck)).toEqual(deck.map((_, i) => [i + 1, i + 1, 'same']))
})

test('pages that have moved are found again, also without text', () => {
  expect(changes(deck, [deck[3]!, deck[0]!, deck[2]!, deck[1]!])).toEqual([
    [4, 1, 'same'],
    [1, 2, 'same'],
    [3, 3, 'same'],
    [2, 4, 'same'],
  ])
})

test('a page with another word or drawing on it is the same page, changed', () => {
  const touched = {
    text: 'Wind or tide: which one is stronger',
    pixels: deck[1]!.pixels.map((v, i) => (i < 60 ? 0.3 : v)),
  }
  expect(changes(deck, [deck[0]!, touched, deck[2]!, deck[3]!])[1]).toEqual([2, 2, 'changed'])
})

test('new and removed pages are told', () => {
  expect(changes(deck, [deck[0]!, page(9, 'Something else altogether here'), deck[2]!, deck[3]!])).toEqual([
    [1, 1, 'same'],
    [null, 2, 'new'],
    [3, 3, 'same'],
    [4, 4, 'same'],
    [2, null, 'gone'],
  ])
})

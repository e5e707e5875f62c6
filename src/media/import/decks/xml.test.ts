import { elementsOf, firstOf, parseXml } from './xml'

/** What a deck's parts are read as, and where reading stops. */

const nested = (depth: number) => '<a>'.repeat(depth) + '</a>'.repeat(depth)
const many = (count: number) => `<a>${'<b/>'.repeat(count)}</a>`

test('a document becomes a tree with its texts, its attributes and its entities read', () => {
  const root = parseXml('\uFEFF<?xml version="1.0"?><p:a x="1 &lt; 2"><b>Tide &amp; wind</b><b/></p:a>')
  expect(firstOf(root, 'p:a')?.attributes).toEqual({ x: '1 < 2' })
  expect([...elementsOf(root, 'b')].map(({ children }) => children.join(''))).toEqual(['Tide & wind', ''])
})

test('as many elements as a rich deck has are read; more, or deeper ones, are not', () => {
  expect([...elementsOf(parseXml(many(100_000)), 'b')]).toHaveLength(100_000)
  expect([...elementsOf(parseXml(nested(200)), 'a')]).toHaveLength(200)
  expect(() => parseXml(many(500_001))).toThrow('too many elements')
  expect(() => parseXml(nested(300))).toThrow('too many elements')
})

test.each([
  ['declares types', '<!DOCTYPE a [<!ENTITY b "boom">]><a>&b;</a>'],
  ['is cut off', '<a><b>'],
  ['closes what is not open', '<a></b>'],
])('what %s is refused', (_, text) => {
  expect(() => parseXml(text)).toThrow()
})

import { cutText, parseStorableJson, storableText } from './text'

test('text is cut between letters, not within them', () => {
  expect(cutText('Knots', 9)).toBe('Knots')
  expect(cutText('Knots', 4)).toBe('Knot')
  expect(cutText('⚓️⛵️🧭', 2)).toBe('⚓️⛵️')
  expect(cutText('e\u0301e\u0301e\u0301', 2)).toBe('e\u0301e\u0301')
  expect(cutText('👩‍✈️👩‍✈️', 1)).toBe('👩‍✈️')
})

test('what no database takes is left out, and nothing else', () => {
  expect(storableText('a\0b\ud83dc')).toBe('ab\ufffdc')
  expect(storableText('🧭 ⚓️')).toBe('🧭 ⚓️')
  expect(parseStorableJson('{"title":"a\\u0000b","deep":["\\ud83d x", 1, null]}')).toEqual({
    title: 'ab',
    deep: ['\ufffd x', 1, null],
  })
  expect(parseStorableJson('"\\ud83e\\udded"')).toBe('🧭')
  expect(() => parseStorableJson('{')).toThrow(SyntaxError)
})

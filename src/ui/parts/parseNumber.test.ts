import { nearestLanguage } from '@/core/narration/words/language'
import { parseNumber } from './parseNumber'

test.each([
  ['1,5', 1.5],
  ['1.5', 1.5],
  ['-0,25 dB', -0.25],
  ['−3', -3],
  ['1.234,5', 1234.5],
  ['1,234.5', 1234.5],
  ['12', 12],
])('%s is %d', (text, value) => expect(parseNumber(text)).toBe(value))

test('what is no number is none', () => {
  expect(parseNumber('')).toBeNaN()
  expect(parseNumber('-')).toBeNaN()
})

test('the nearest language to what a browser is set to', () => {
  const languages = ['de', 'en-gb', 'en-us', 'fr-fr', 'pt-br']
  expect(nearestLanguage('de-AT', languages)).toBe('de')
  expect(nearestLanguage('en-US', languages)).toBe('en-us')
  expect(nearestLanguage('pt', languages)).toBe('pt-br')
  expect(nearestLanguage('xx-YY', languages)).toBe('en-gb')
  expect(nearestLanguage('de', [])).toBe('en-gb')
})

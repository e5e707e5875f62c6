import { sayAs } from './sayAs'

const said = (text: string, language = 'en-gb') =>
  text
    .split(' ')
    .map((word, i, all) => sayAs(word, all[i - 1], language) ?? word)
    .join(' ')

test.each([
  ['$1,234.56', '1234 dollars 56'],
  ['£1', '1 British pound'],
  ['(€20),', '(20 euros),'],
  ['3/4', '3 quarters'],
  ['1/2', 'one half'],
  ['2026-03-12.', '12 March 2026.'],
  ['12/03/2026', '12 March 2026'],
  ['12 m', '12 metres'],
  ['1 m', '1 metre'],
  ['5km', '5 kilometres'],
  ['6 kn', '6 knots'],
  ['-4°C', '-4 degrees Celsius'],
  ['skerrow.example/tides', 'skerrow dot example slash tides'],
  ['office@skerrow-harbour.example', 'office at skerrow dash harbour dot example'],
])('%s is said as people say it', (written, spoken) => {
  expect(said(written)).toBe(spoken)
})

test.each([
  ['1.234,56€', '1234 Euro 56'],
  ['3/4', '3 Viertel'],
  ['12.03.2026', '12. März 2026'],
  ['2,5 m', '2,5 Meter'],
  ['6 kn', '6 Knoten'],
  ['skerrow.example', 'skerrow Punkt example'],
])('%s in German', (written, spoken) => {
  expect(said(written, 'de')).toBe(spoken)
})

test('American dates begin with the month', () => {
  expect(said('03/12/2026', 'en-us')).toBe('March 12, 2026')
})

test.each([
  '24/7',
  '9/11',
  '1 in 5',
  'e.g.',
  'i.e.',
  'and so on...',
  '3.5',
  'No.',
  'a/b',
  '31/02/2026',
  '1.234,56€',
  'm',
  'the s',
])('%s is left alone', (written) => {
  expect(said(written)).toBe(written)
})

test('a voice with a language of its own making is no fault', () => {
  expect(sayAs('5km', undefined, 'x')).toBe('5 kilometers')
})

import { oddWords, sentencesToSay, type Pronunciation } from './speechVoice'
import { readScript } from './words/script'

const said = (script: string, ...list: Pronunciation[]) =>
  sentencesToSay(readScript(script), list, 'en-gb').flatMap(({ words }) => words.map((word) => word.said))

test('a word of the list is said so wherever it stands, with the marks around it', () => {
  const list = { word: 'Skerrow', saidAs: 'skerroe' }
  expect(said('Skerrow, “Skerrow” (skerrow)! And —Skerrow— too.', list)).toEqual([
    'skerroe,',
    '“skerroe”',
    '(skerroe)!',
    'And',
    '—skerroe—',
    'too.',
  ])
})

test('a sign that is said belongs to its word', () => {
  expect(said('Pay €20 at berth 20.', { word: '20', saidAs: 'twenty' })).toEqual([
    'Pay',
    '20 euros',
    'at',
    'berth',
    'twenty.',
  ])
  expect(said('Pay €20 at berth 20.', { word: '€20', saidAs: 'a note' })).toEqual([
    'Pay',
    'a note',
    'at',
    'berth',
    '20.',
  ])
})

test('what is said otherwise than written is listed once, without what the author has said himself', () => {
  const scripts = ['It is 12 m deep, and 12 m is enough.', 'It costs (€20), or €20.']
  expect(oddWords(scripts, [], 'en-gb')).toEqual([
    { word: 'm', saidAs: 'metres' },
    { word: '€20', saidAs: '20 euros' },
  ])
  expect(oddWords(scripts, [{ word: '€20', saidAs: 'twenty' }], 'en-gb')).toEqual([{ word: 'm', saidAs: 'metres' }])
})

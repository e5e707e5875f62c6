import { readScript, shownText } from './script'

const sentencesOf = (script: string) => readScript(script).sentences.map(({ text }) => text)

test('sentences end at their marks and at the ends of lines, not after abbreviations', () => {
  expect(sentencesOf('Look up. Is it high? Then wait!')).toEqual(['Look up.', 'Is it high?', 'Then wait!'])
  expect(sentencesOf('Ask Dr. Marrow. “Now.” she said')).toEqual(['Ask Dr. Marrow.', '“Now.”', 'she said'])
  expect(sentencesOf('A title\n\nAnd 5.4 metres')).toEqual(['A title', 'And 5.4 metres'])
  expect(sentencesOf(' \n ')).toEqual([])
})

test('words know their place in the script', () => {
  const script = 'Tie – twice – a *bowline*. Done.'
  const { words } = readScript(script)
  expect(words.map(({ text }) => text)).toEqual(['Tie –', 'twice –', 'a', 'bowline.', 'Done.'])
  expect(words.map(({ from, to }) => script.slice(from, to))).toEqual(['Tie –', 'twice –', 'a', '*bowline*.', 'Done.'])
  expect(words.map(({ sentence }) => sentence)).toEqual([0, 0, 0, 0, 1])
})

test('stress and pauses are marks, not words', () => {
  const { words, sentences } = readScript('Never *cast off* first. [pause 1.5] Wait, [pause] then go.')
  expect(words.filter(({ stressed }) => stressed).map(({ text }) => text)).toEqual(['cast', 'off'])
  expect(sentences.map(({ text, pause }) => [text, pause])).toEqual([
    ['Never cast off first.', 1.5],
    ['Wait,', 0.7],
    ['then go.', 0],
  ])
  expect(shownText('Never *cast off* first. [pause 1.5] Wait.')).toBe('Never cast off first. Wait.')
})

test('an unclosed bracket or star loses no word', () => {
  expect(readScript('one [two *three four').words.map(({ text }) => text)).toEqual(['one', '[two', 'three', 'four'])
})

test.each([
  ['Thai', 'อ่านตารางน้ำขึ้นน้ำลง', 3, 1],
  ['Chinese', '先看潮汐表。然后出发！', 4, 2],
  ['Japanese', '潮の表を読みます。次に出港します。', 6, 2],
  ['one with spaces', 'Cti tabulku. Pak vypluj!', 4, 2],
])('a script in %s has words and sentences', (_, script, fewest, count) => {
  const { words, sentences } = readScript(script)
  expect(words.length).toBeGreaterThanOrEqual(fewest)
  expect(sentences).toHaveLength(count)
  // Nothing of what is written is lost or moved.
  for (const { text, from, to } of words) expect(script.slice(from, to)).toBe(text)
  expect(sentences.map(({ text }) => text).join(script.includes(' ') ? ' ' : '')).toBe(script)
})

import { endsClause } from './sentenceEnds'
import { readScript } from './script'

const sentencesOf = (script: string) => readScript(script).sentences.map(({ text }) => text)

test.each([
  'The U.S. coast is longer.',
  'See Fig. 3 and No. 5 on p. 12.',
  'High water is at 5 p.m. in the harbour.',
  'Knots, e.g. the bowline, hold.',
  'Achten Sie z. B. auf den Wind.',
  'Achten Sie z.B. auf den Wind.',
  'Am 3. Mai um ca. 5 Uhr laufen wir aus.',
  'Der 2. Knoten hält.',
  'Ask Dr. Marrow or Mrs. Quill.',
  'J. Marrow wrote it.',
  '1. Look at the table.',
  'It is 5.4 metres deep.',
  'Lines, fenders etc. lie on deck.',
])('“%s” is one sentence', (text) => {
  expect(sentencesOf(text)).toEqual([text])
})

test.each([
  ['Be there at 5 p.m. Then wait.', 2],
  ['No. That is wrong.', 2],
  ['Bring lines, fenders etc. Then wait.', 2],
  ['We waited until 12. Then we went.', 2],
  ['That was in 2019. Since then it is closed.', 2],
  ['He said “Go.” She went.', 2],
  ['Wait for it… Now!', 2],
  ['هل الماء عال؟ انتظر.', 2],
  ['पानी ऊँचा है। रुको।', 2],
  ['ውሃው ከፍ ብሏል። ይጠብቁ።', 2],
])('“%s” has %d sentences', (text, count) => {
  expect(sentencesOf(text)).toHaveLength(count)
})

test('commas of other scripts part clauses', () => {
  expect(['first,', 'أولا،', '先看、', '看，', 'so –'].map(endsClause)).toEqual([true, true, true, true, true])
  expect(['first', 'end.'].map(endsClause)).toEqual([false, false])
})

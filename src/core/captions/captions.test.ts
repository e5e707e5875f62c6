import fc from 'fast-check'
import { breakCost } from './breaks'
import { makeCaptions, USUAL_RULES, type SaidWord } from './captions'

/** Words said one after the other, so many letters a second; a `|` is a pause of a second, a `/` a new step. */
function said(text: string, pace = 14): SaidWord[] {
  let [time, step] = [1, 1]
  return text.split(/\s+/).flatMap((token): SaidWord[] => {
    if (token === '|') time += 1
    if (token === '/') step++
    if (token === '|' || token === '/') return []
    const start = time
    time += (token.length + 1) / pace
    return [{ text: token, start, end: time - 0.02, step: `s${step}` }]
  })
}
const lines = (text: string) => makeCaptions(said(text), [], 'en').map((one) => one.lines.join(' / '))

test('captions end where sentences do, and lines are broken by sense', () => {
  expect(lines('Look at the tide table first. Then choose the port that is nearest to your harbour.')).toEqual([
    'Look at the tide table first.',
    'Then choose the port / that is nearest to your harbour.',
  ])
})

test('no break parts an article from its noun, a number from its unit, or a name', () => {
  expect(breakCost('the', 'harbour', 'en')).toBeGreaterThan(breakCost('harbour', 'wall', 'en'))
  expect(breakCost('3.5', 'metres', 'en')).toBeGreaterThan(breakCost('wait', 'metres', 'en'))
  expect(breakCost('Skerrow', 'Harbour', 'en')).toBeGreaterThan(breakCost('harbour', 'wall', 'en'))
  expect(breakCost('der', 'Hafen', 'de')).toBeGreaterThan(breakCost('Hafen', 'und', 'de'))
  expect(breakCost('bar.', 'Then', 'en')).toBe(0)
})

test('a pause and a new step end a caption', () => {
  expect(lines('Wait for it | and go on')).toEqual(['Wait for it', 'and go on'])
  expect(lines('One picture ends / another one begins')).toEqual(['One picture ends', 'another one begins'])
})

test('times near a change of picture are at the change', () => {
  const words = said('Look at this. / And then at that.')
  const boundary = words.find(({ step }) => step === 's2')!.start - 0.1
  const [first, second] = makeCaptions(words, [boundary], 'en')
  expect(second!.start).toBe(boundary)
  expect(first!.end).toBeLessThanOrEqual(boundary)
})

test('whatever is said: all words in order, lines that fit, apart, and never before their words', () => {
  const word = fc.string({ minLength: 1, maxLength: 12, unit: fc.constantFrom(...'abcdefgh') })
  const pauses = fc.array(fc.tuple(word, fc.double({ min: 0, max: 1.5, noNaN: true })), {
    minLength: 1,
    maxLength: 120,
  })
  fc.assert(
    fc.property(pauses, (list) => {
      let time = 0
      const words = list.map(([text, pause]): SaidWord => {
        const start = (time += pause)
        time += 0.08 * text.length + 0.05
        return { text, start, end: time, step: 's' }
      })
      const captions = makeCaptions(words, [], 'en')
      expect(captions.flatMap((one) => one.lines.join(' ').split(' '))).toEqual(words.map(({ text }) => text))
      captions.forEach((one, i) => {
        expect(one.lines.length).toBeLessThanOrEqual(2)
        for (const line of one.lines) expect(line.length).toBeLessThanOrEqual(USUAL_RULES.lineLength)
        expect(one.start).toBe(words[one.from]!.start)
        const next = captions[i + 1]
        if (next) expect(next.start - one.end).toBeGreaterThan(USUAL_RULES.apart - 1e-9)
      })
    }),
    { numRuns: 60 },
  )
})

test('at the pace of a usual reading no caption is too fast, too short or too long', () => {
  const sentence =
    'Before you cross the bar of the harbour, watch it for five minutes from the lee of the breakwater. White water means that you wait. If you hear the bell, stay where you are, and call the harbour office on channel twelve.'
  const captions = makeCaptions(said(Array.from({ length: 30 }, () => sentence).join(' | ')), [], 'en')
  for (const { start, end, lines: own } of captions) {
    expect(own.join(' ').length / (end - start)).toBeLessThanOrEqual(20)
    expect(end - start).toBeGreaterThanOrEqual(0.95)
    expect(end - start).toBeLessThanOrEqual(7)
  }
  const fast = captions.filter(({ start, end, lines: own }) => own.join(' ').length / (end - start) > 17)
  expect(fast.length / captions.length).toBeLessThan(0.02)
})

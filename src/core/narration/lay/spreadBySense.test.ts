import { spreadBySense } from './spreadBySense'

const script =
  'Welcome aboard. First we check the mooring lines. A frayed line is changed before we leave. ' +
  'The tide table tells when the water is high. Add the height of the tide to the depth on the chart. ' +
  'Flags tell other boats what we are about. The blue flag means that we are ready to leave.'

test('each sentence goes to the slide that says what it says', () => {
  const slides = ['Welcome', 'Mooring lines: check, change', 'Tide table', 'Flags and their meaning: the blue flag']
  expect(spreadBySense(script, slides)).toEqual([
    'Welcome aboard.',
    'First we check the mooring lines. A frayed line is changed before we leave.',
    'The tide table tells when the water is high. Add the height of the tide to the depth on the chart.',
    'Flags tell other boats what we are about. The blue flag means that we are ready to leave.',
  ])
})

test('slides without words get an even share each, and nothing is lost', () => {
  const parts = spreadBySense(script, ['', '', ''])
  expect(parts.join(' ')).toBe(script)
  for (const part of parts) expect(part.length).toBeGreaterThan(script.length / 6)
})

test('more slides than sentences leave some slides without words; no sentence is lost', () => {
  const parts = spreadBySense('One thing. Another thing.', ['', '', '', '', ''])
  expect(parts).toHaveLength(5)
  expect(parts.filter(Boolean).join(' ')).toBe('One thing. Another thing.')
  expect(spreadBySense('', ['a', 'b'])).toEqual(['', ''])
})

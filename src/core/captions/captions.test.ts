import fc from 'fast-check'
import { breakCost } from './breaks'
import { makeCaptions, type SaidWord } from './captions'
import { joined, lostCorrections, parted } from './corrections'
import { misplaced, tooShort, USUAL_RULES } from './rules'

const ONE_PICTURE = { cuts: [], length: Infinity }

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
const lines = (text: string) => makeCaptions(said(text), ONE_PICTURE, 'en').map((one) => one.lines.join(' / '))

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
  expect(breakCost('Fig.', '3', 'en')).toBeGreaterThan(breakCost('see', 'below', 'en'))
  expect(breakCost('12.', 'Then', 'en', 'until')).toBe(0)
})

test('a pause and a new step end a caption', () => {
  expect(lines('Wait for it | and go on')).toEqual(['Wait for it', 'and go on'])
  expect(lines('One picture ends / another one begins')).toEqual(['One picture ends', 'another one begins'])
})

test('times near a change of picture are at the change', () => {
  const words = said('Look at this. / And then at that.')
  const boundary = words.find(({ step }) => step === 's2')!.start - 0.1
  const [first, second] = makeCaptions(words, { cuts: [0, boundary], length: Infinity }, 'en')
  expect(second!.start).toBe(boundary)
  expect(first!.end).toBeLessThanOrEqual(boundary)
})

describe('whatever is said', () => {
  const word = fc.record({
    text: fc.string({ minLength: 1, maxLength: 12, unit: fc.constantFrom(...'abcdefgh') }),
    pause: fc.oneof(fc.constant(0), fc.double({ min: 0, max: 1.5, noNaN: true })),
    // Some were not found, and nothing is free where they could stand.
    isFound: fc.double({ min: 0, max: 1, noNaN: true }).map((share) => share > 0.2),
    ends: fc.constantFrom('', '', '', '.', ',', 'step'),
  })
  /** Each step has a picture, from its own beginning on. */
  function lessonOf(list: readonly { text: string; pause: number; isFound: boolean; ends: string }[], lead = 0.3) {
    let [time, step] = [0, 0]
    const cuts = [0]
    const words = list.map(({ text, pause, isFound, ends }): SaidWord => {
      const start = (time += pause)
      if (isFound) time += 0.08 * text.length + 0.05
      const said = { text: text + (ends === 'step' ? '.' : ends), start, end: time, step: `s${step}` }
      if (ends !== 'step') return said
      step++
      cuts.push((time += lead))
      return said
    })
    return { words, pictures: { cuts, length: time + 0.5 } }
  }
  const lists = fc.array(word, { minLength: 1, maxLength: 120 })

  test('all words are shown in order, in lines that fit', () => {
    fc.assert(
      fc.property(lists, (list) => {
        const { words, pictures } = lessonOf(list)
        const captions = makeCaptions(words, pictures, 'en')
        expect(captions.flatMap((one) => one.lines.join(' ').split(' '))).toEqual(words.map(({ text }) => text))
        for (const { lines } of captions) {
          expect(lines.length).toBeLessThanOrEqual(2)
          for (const line of lines) expect(line.length).toBeLessThanOrEqual(USUAL_RULES.lineLength)
        }
      }),
      { numRuns: 60 },
    )
  })

  test('none comes too near to the next one or stays too long, and each can be seen where its step has the time', () => {
    fc.assert(
      fc.property(lists, (list) => {
        const { words, pictures } = lessonOf(list)
        const captions = makeCaptions(words, pictures, 'en')
        expect(misplaced(captions, USUAL_RULES)).toEqual([])
        const { shortest, apart } = USUAL_RULES
        for (const { step } of tooShort(captions, USUAL_RULES)) {
          const index = Number(step.slice(1))
          const own = captions.filter((one) => one.step === step)
          const before = captions[captions.indexOf(own[0]!) - 1]
          // From its picture on, and from where the one before has been seen; to the next step's beginning.
          const from = Math.max(
            pictures.cuts[index]!,
            before ? Math.min(before.end, before.start + shortest) + apart : 0,
          )
          const after = captions.find((one) => one.step === `s${index + 1}`)
          const to = after ? after.start - apart : pictures.length
          expect(to - from).toBeLessThan(own.length * (shortest + apart) - apart + 1e-6)
        }
      }),
      { numRuns: 200 },
    )
  })

  test('where all was found and is said with pauses, captions begin with their words', () => {
    const usual = lists.map((list) => list.map((one) => ({ ...one, isFound: true, text: `${one.text}abcdefghijkl` })))
    fc.assert(
      fc.property(usual, (list) => {
        const { words } = lessonOf(list)
        for (const one of makeCaptions(words, ONE_PICTURE, 'en')) expect(one.start).toBe(words[one.from]!.start)
      }),
      { numRuns: 30 },
    )
  })
})

test('at the pace of a usual reading no caption is too fast, too short or too long', () => {
  const sentence =
    'Before you cross the bar of the harbour, watch it for five minutes from the lee of the breakwater. White water means that you wait. If you hear the bell, stay where you are, and call the harbour office on channel twelve.'
  const captions = makeCaptions(said(Array.from({ length: 30 }, () => sentence).join(' | ')), ONE_PICTURE, 'en')
  for (const { start, end, lines: own } of captions) {
    expect(own.join(' ').length / (end - start)).toBeLessThanOrEqual(20)
    expect(end - start).toBeGreaterThanOrEqual(0.95)
    expect(end - start).toBeLessThanOrEqual(7)
  }
  const fast = captions.filter(({ start, end, lines: own }) => own.join(' ').length / (end - start) > 17)
  expect(fast.length / captions.length).toBeLessThan(0.02)
})

describe('a corrected caption', () => {
  const TEXT = 'Look at the tide table first. Then choose the port that is nearest to your harbour. / Then go.'
  const shown = (corrections: { words: string; text: string }[], text = TEXT) =>
    makeCaptions(said(text), ONE_PICTURE, 'en', USUAL_RULES, corrections)
  const read = (...args: Parameters<typeof shown>) => shown(...args).map((one) => one.lines.join(' / '))
  const port = { words: 'Then choose the port', text: 'Choose your port:' }

  test('reads as it was corrected; what is around it is parted anew, and times are those of its words', () => {
    expect(read([port])).toEqual([
      'Look at the tide table first.',
      'Choose your port:',
      'that is nearest to your harbour.',
      'Then go.',
    ])
    const caption = shown([port])[1]!
    expect(caption).toMatchObject({ from: 6, to: 10, isCorrected: true })
    expect(caption.start).toBe(said(TEXT)[6]!.start)
  })
  test('keeps its lines, however long they are', () => {
    const text = 'Look at the tide table first. Then choose the port\nthat is nearest to your harbour.'
    const all = { words: TEXT.slice(0, TEXT.indexOf(' /')), text }
    expect(shown([all])[0]!.lines).toEqual(text.split('\n'))
  })
  test('goes with its words to another place, and is left where these are no longer said', () => {
    expect(read([port], 'Now then. Then choose the port wisely.')).toEqual([
      'Now then.',
      'Choose your port:',
      'wisely.',
    ])
    expect(read([port], 'Then choose a port.')).toEqual(['Then choose a port.'])
    expect(read([port], 'Then choose / the port')).toEqual(['Then choose', 'the port'])
  })
  test('without a text is not shown', () => {
    expect(shown([{ words: 'Then go.', text: '' }]).at(-1)!.lines).toEqual([])
  })
  test('the longer one goes before where both would apply', () => {
    const more = { words: `${port.words} that is nearest`, text: 'The nearest port' }
    expect(read([port, more])).toContain('The nearest port')
  })

  test('joined and parted again it has the words of both, and no others', () => {
    const next = { words: 'that is nearest', text: 'that is nearest' }
    const both = joined(port, next)
    expect(both).toEqual({ words: 'Then choose the port that is nearest', text: 'Choose your port:\nthat is nearest' })
    expect(parted(both, both.text.indexOf('\n'))).toEqual([
      { words: 'Then choose the port', text: 'Choose your port:' },
      next,
    ])
    expect(parted(both, 0)).toBeNull()
    expect(parted(both, both.text.length)).toBeNull()
  })

  test('is lost where its words are written nowhere; what only a speaker is told is no word', () => {
    const correction = { words: 'Then choose [a bell] the port', text: 'Choose.' }
    const lost = (script: string) => lostCorrections([correction], [{ script }], [{ caption: 'a bell' }])
    expect(lost('Wait. Then *choose* [pause 1.5] the\nport now.')).toEqual([])
    expect(lost('Then choose a port.')).toEqual([correction])
  })
})

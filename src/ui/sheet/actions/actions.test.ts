import { shownKeys } from '../../keys'
import { ACTIONS, actionsNamed } from './actions'

test('no key does two things', () => {
  const keys = ACTIONS.flatMap(({ keys }) => [...keys])
  expect(new Set(keys).size).toBe(keys.length)
  expect(new Set(ACTIONS.map(({ id }) => id)).size).toBe(ACTIONS.length)
})

test.each([
  ['make the music quieter', 'musicSofter'],
  ['music louder', 'musicLouder'],
  ['split', 'breakHere'],
  ['merge', 'join'],
  ['silence', 'remove'],
  ['export', 'finish'],
  ['microphone', 'booth'],
  ['zoom in', 'larger'],
  ['How do I undo', 'undo'],
])('"%s" finds it', (sought, id) => {
  expect(actionsNamed(sought).map((one) => one.id)).toContain(id)
})

test('what nobody means finds nothing, and nothing sought finds all', () => {
  expect(actionsNamed('spinnaker')).toEqual([])
  expect(actionsNamed('  ')).toHaveLength(ACTIONS.length)
})

test('keys are shown as the system writes them', () => {
  expect(shownKeys('mod+shift+left', false)).toBe('Ctrl Shift ←')
  expect(shownKeys('mod+shift+left', true)).toBe('⇧⌘←')
  expect(shownKeys('alt+up', true)).toBe('⌥↑')
  expect(shownKeys('space', false)).toBe('Space')
  expect(shownKeys('mod+k', false)).toBe('Ctrl K')
  expect(shownKeys('?', true)).toBe('?')
})

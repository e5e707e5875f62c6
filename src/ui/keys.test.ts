import { chordOf } from './keys'

const press = (key: string, code: string, held: string[] = []) =>
  chordOf({
    key,
    code,
    ctrlKey: held.includes('Control'),
    metaKey: held.includes('Meta'),
    altKey: held.includes('Alt'),
    shiftKey: held.includes('Shift'),
  })

test.each([
  // US
  ['?', 'Slash', ['Shift'], '?'],
  ['+', 'Equal', ['Shift'], '+'],
  ['+', 'NumpadAdd', [], '+'],
  ['-', 'Minus', [], '-'],
  ['z', 'KeyZ', ['Control'], 'mod+z'],
  ['Z', 'KeyZ', ['Control', 'Shift'], 'mod+shift+z'],
  // German: Z and Y change places, ? is Shift and ß, + has a key of its own
  ['?', 'Minus', ['Shift'], '?'],
  ['+', 'BracketRight', [], '+'],
  ['z', 'KeyY', ['Control'], 'mod+z'],
  ['y', 'KeyZ', ['Control'], 'mod+y'],
  // French: Z where others have W, ? is Shift and comma
  ['?', 'KeyM', ['Shift'], '?'],
  ['+', 'Equal', ['Shift'], '+'],
  ['z', 'KeyW', ['Control'], 'mod+z'],
  ['a', 'KeyQ', ['Control'], 'mod+a'],
  // a mark that is written with AltGr
  ['+', 'KeyU', ['Control', 'Alt'], '+'],
  // Cyrillic
  ['я', 'KeyZ', ['Control'], 'mod+z'],
  ['Ы', 'KeyS', ['Shift'], 'shift+s'],
  // what writes nothing
  [' ', 'Space', [], 'space'],
  [' ', 'Space', ['Shift'], 'shift+space'],
  ['ArrowLeft', 'ArrowLeft', ['Meta', 'Shift'], 'mod+shift+left'],
  ['Backspace', 'Backspace', [], 'backspace'],
  ['F10', 'F10', ['Shift'], 'shift+f10'],
])('%s on %s with %j is %s', (key, code, held, chord) => {
  expect(press(key, code, held)).toBe(chord)
})

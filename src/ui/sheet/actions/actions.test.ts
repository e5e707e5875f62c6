import { speaking } from '@/messages/onServer'
import { shownKeys } from '../../keys'
import { ACTIONS } from './actions'
import { calledOf, type Thing } from './called'
import { search } from './search'
import { SETTINGS } from './settings'

test('no key does two things', () => {
  const keys = ACTIONS.flatMap(({ keys }) => [...keys])
  expect(new Set(keys).size).toBe(keys.length)
  expect(new Set(ACTIONS.map(({ id }) => id)).size).toBe(ACTIONS.length)
})

const things: Thing[] = [...ACTIONS.map((action) => ({ action })), ...SETTINGS.map((setting) => ({ setting }))]
const idOf = (thing: Thing) => ('action' in thing ? thing.action.id : thing.setting.id)
const found = (sought: string) => {
  const { found: all, isNearest } = search(sought, things, calledOf)
  return isNearest ? [] : all.map(idOf)
}

/** What teachers called what they wanted to do, and where it is done. */
const CALLED: [sought: string, id: string][] = [
  ['make the music quieter', 'musicSofter'],
  ['music louder', 'musicLouder'],
  ['split', 'breakHere'],
  ['merge', 'join'],
  ['silence', 'remove'],
  ['export', 'finish'],
  ['microphone', 'booth'],
  ['zoom in', 'larger'],
  ['How do I undo', 'undo'],
  ['mute the recording', 'ownSound'],
  ['own sound', 'ownSound'],
  ['speed up', 'recordingSpeed'],
  ['hold last frame', 'lengthFixed'],
  ['loop music', 'musicSettings'],
  ['fade out music', 'musicSettings'],
  ['music too loud', 'musicSofter'],
  ['trim', 'remove'],
  ['dead air', 'remove'],
  ['delete step', 'remove'],
  ['rename', 'title'],
  ['scorm', 'finish'],
  ['hiss', 'booth'],
  ['replace voice', 'booth'],
  ['burn captions', 'finish'],
  ['zoom', 'overCloser'],
  ['yesterday', 'versions'],
  ['earlier version', 'versions'],
  ['language', 'booth'],
  ['replace slides', 'shelf'],
  ['end slide', 'closing'],
  ['camera', 'booth'],
  ['bring in', 'shelf'],
  ['tempo', 'booth'],
  ['make a piece', 'musicSettings'],
  ['solo', 'balance'],
  ['mute', 'balance'],
  ['findings', 'finish'],
  ['play from here', 'play'],
  ['share', 'finish'],
  ['reorder', 'moveUp'],
  ['pptx', 'shelf'],
  ['mp3', 'finish'],
  ['upload', 'shelf'],
  ['transcript', 'finish'],
  ['voice over', 'booth'],
  ['text to speech', 'booth'],
  ['webcam', 'booth'],
  ['screen recording', 'booth'],
  ['trash', 'remove'],
  ['history', 'versions'],
  ['backup', 'saveCopy'],
  ['normalise', 'balance'],
  ['breath', 'remove'],
  ['retake', 'booth'],
  ['pointer', 'overArrow'],
  ['slow motion', 'recordingSpeed'],
  ['home', 'lessons'],
]
test.each(CALLED)('"%s" finds it', (sought, id) => expect(found(sought)).toContain(id))

const CALLED_IN_GERMAN: [sought: string, id: string][] = [
  ['Musik leiser', 'musicSofter'],
  ['Musik zu laut', 'musicSofter'],
  ['teilen', 'breakHere'],
  ['Schritt löschen', 'remove'],
  ['umbenennen', 'title'],
  ['schneller', 'recordingSpeed'],
  ['Standbild', 'lengthFixed'],
  ['Musik ausblenden', 'musicSettings'],
  ['Stück machen', 'musicSettings'],
  ['Rauschen', 'booth'],
  ['Stimme ersetzen', 'booth'],
  ['Kamera', 'booth'],
  ['vorlesen', 'booth'],
  ['Aussprache', 'booth'],
  ['Untertitel einbrennen', 'finish'],
  ['SCORM', 'finish'],
  ['veröffentlichen', 'finish'],
  ['Befunde', 'finish'],
  ['gestern', 'versions'],
  ['frühere Fassung', 'versions'],
  ['Sicherung', 'saveCopy'],
  ['hereinbringen', 'shelf'],
  ['Folien ersetzen', 'shelf'],
  ['stumm', 'balance'],
  ['solo', 'balance'],
  ['ab hier', 'play'],
  ['Zeiger', 'overArrow'],
  ['wiederherstellen', 'undo'],
]
test.each(CALLED_IN_GERMAN)('„%s“ finds it in German', (sought, id) =>
  speaking('de', () => expect(found(sought)).toContain(id)),
)

test('what is called so goes before what only has such a word beside its name', () => {
  expect(found('paste')[0]).toBe('paste')
  expect(found('captions')[0]).toMatch(/aption/)
})

test('where nothing is called just so, what comes nearest is offered; nothing sought finds all', () => {
  const nearest = search('explode the music', things, calledOf)
  expect(nearest.isNearest).toBe(true)
  expect(nearest.found.map(idOf)).toContain('musicSettings')
  expect(search('spinnaker', things, calledOf)).toEqual({ found: [], isNearest: false })
  expect(search('  ', things, calledOf).found).toHaveLength(things.length)
})

test('keys are shown as the system writes them', () => {
  expect(shownKeys('mod+shift+left', false)).toBe('Ctrl Shift ←')
  expect(shownKeys('mod+shift+left', true)).toBe('⇧⌘←')
  expect(shownKeys('alt+up', true)).toBe('⌥↑')
  expect(shownKeys('space', false)).toBe('Space')
  expect(shownKeys('mod+k', false)).toBe('Ctrl K')
  expect(shownKeys('?', true)).toBe('?')
})

import { say } from '@/messages/say'

/**
 * Everything that can be done on the sheet: the one place from which keys, menus, the list of keys and the list of commands
 * come. What each of them does stands beside it: goActions.ts, wordActions.ts, stepActions.ts, thingActions.ts,
 * musicActions.ts.
 */
export const ACTION_GROUPS = ['listen', 'go', 'choose', 'words', 'steps', 'things', 'music', 'length', 'view'] as const
export type ActionGroup = (typeof ACTION_GROUPS)[number]

/** What a menu of the sheet can be about. */
export type MenuOf = 'step' | 'words' | 'thing' | 'music' | 'length'

export interface Action {
  id: ActionId
  /** The chords that do it (keys.ts); the first is the one that is shown. */
  keys: readonly string[]
  group: ActionGroup
  /** The menus that have it. */
  menus?: readonly MenuOf[]
}

export const ACTIONS = [
  { id: 'play', keys: ['space'], group: 'listen' },
  {
    id: 'playStep',
    keys: ['shift+space'],
    group: 'listen',
    menus: ['step', 'words', 'thing', 'music', 'length'],
  },
  { id: 'wordBack', keys: ['left'], group: 'go', menus: ['thing'] },
  { id: 'wordOn', keys: ['right'], group: 'go', menus: ['thing'] },
  { id: 'phraseBack', keys: ['mod+left'], group: 'go' },
  { id: 'phraseOn', keys: ['mod+right'], group: 'go' },
  { id: 'sentenceBack', keys: ['alt+left'], group: 'go' },
  { id: 'sentenceOn', keys: ['alt+right'], group: 'go' },
  { id: 'stepBack', keys: ['up'], group: 'go' },
  { id: 'stepOn', keys: ['down'], group: 'go' },
  { id: 'firstStep', keys: ['home'], group: 'go' },
  { id: 'lastStep', keys: ['end'], group: 'go' },
  { id: 'find', keys: ['mod+f'], group: 'go' },
  { id: 'selectBack', keys: ['shift+left'], group: 'choose' },
  { id: 'selectOn', keys: ['shift+right'], group: 'choose' },
  { id: 'selectPhraseBack', keys: ['mod+shift+left'], group: 'choose' },
  { id: 'selectPhraseOn', keys: ['mod+shift+right'], group: 'choose' },
  { id: 'selectStepBack', keys: ['shift+up'], group: 'choose' },
  { id: 'selectStepOn', keys: ['shift+down'], group: 'choose' },
  { id: 'selectAll', keys: ['mod+a'], group: 'choose' },
  {
    id: 'cut',
    keys: ['mod+x'],
    group: 'words',
    menus: ['step', 'words'],
  },
  {
    id: 'copy',
    keys: ['mod+c'],
    group: 'words',
    menus: ['step', 'words', 'thing'],
  },
  {
    id: 'paste',
    keys: ['mod+v'],
    group: 'words',
    menus: ['step', 'words'],
  },
  {
    id: 'remove',
    keys: ['delete'],
    group: 'words',
    menus: ['step', 'words', 'thing'],
  },
  {
    id: 'correct',
    keys: ['f2'],
    group: 'words',
    menus: ['words'],
  },
  {
    id: 'pauseLonger',
    keys: ['p'],
    group: 'words',
    menus: ['words'],
  },
  {
    id: 'pauseShorter',
    keys: ['shift+p'],
    group: 'words',
    menus: ['words'],
  },
  {
    id: 'breakHere',
    keys: ['enter'],
    group: 'steps',
    menus: ['words', 'step'],
  },
  {
    id: 'breakAtPlayhead',
    keys: ['s'],
    group: 'steps',
  },
  {
    id: 'join',
    keys: ['backspace'],
    group: 'steps',
    menus: ['step'],
  },
  {
    id: 'moveUp',
    keys: ['alt+up'],
    group: 'steps',
    menus: ['step'],
  },
  {
    id: 'moveDown',
    keys: ['alt+down'],
    group: 'steps',
    menus: ['step'],
  },
  {
    id: 'duplicate',
    keys: ['mod+d'],
    group: 'steps',
    menus: ['step'],
  },
  {
    id: 'addCard',
    keys: [],
    group: 'steps',
    menus: ['step'],
  },
  { id: 'undo', keys: ['mod+z'], group: 'steps' },
  { id: 'redo', keys: ['mod+y', 'mod+shift+z'], group: 'steps' },
  {
    id: 'pickNext',
    keys: ['t'],
    group: 'things',
  },
  {
    id: 'letGo',
    keys: ['escape'],
    group: 'things',
  },
  {
    id: 'thingEarlier',
    keys: [','],
    group: 'things',
    menus: ['thing'],
  },
  {
    id: 'thingLater',
    keys: ['.'],
    group: 'things',
    menus: ['thing'],
  },
  {
    id: 'addSound',
    keys: [],
    group: 'things',
    menus: ['words', 'step'],
  },
  {
    id: 'addPicture',
    keys: [],
    group: 'things',
    menus: ['words'],
  },
  {
    id: 'overTitle',
    keys: [],
    group: 'things',
    menus: ['step'],
  },
  {
    id: 'overLabel',
    keys: [],
    group: 'things',
    menus: ['step'],
  },
  {
    id: 'overRing',
    keys: [],
    group: 'things',
    menus: ['step'],
  },
  {
    id: 'overArrow',
    keys: [],
    group: 'things',
    menus: ['step'],
  },
  {
    id: 'overCover',
    keys: [],
    group: 'things',
    menus: ['step'],
  },
  {
    id: 'overCloser',
    keys: [],
    group: 'things',
    menus: ['step'],
  },
  {
    id: 'overSlowMove',
    keys: [],
    group: 'things',
    menus: ['step'],
  },
  {
    id: 'musicSofter',
    keys: [],
    group: 'music',
    menus: ['music'],
  },
  {
    id: 'musicLouder',
    keys: [],
    group: 'music',
    menus: ['music'],
  },
  {
    id: 'musicSofterHere',
    keys: [],
    group: 'music',
    menus: ['music', 'step'],
  },
  {
    id: 'musicLouderHere',
    keys: [],
    group: 'music',
    menus: ['music', 'step'],
  },
  {
    id: 'musicSettings',
    keys: [],
    group: 'music',
    menus: ['music'],
  },
  {
    id: 'lengthVoice',
    keys: [],
    group: 'length',
    menus: ['length'],
  },
  {
    id: 'lengthFixed',
    keys: [],
    group: 'length',
    menus: ['length'],
  },
  {
    id: 'lengthUntilNext',
    keys: [],
    group: 'length',
    menus: ['length'],
  },
  {
    id: 'booth',
    keys: [],
    group: 'view',
    menus: ['step'],
  },
  {
    id: 'balance',
    keys: [],
    group: 'view',
    menus: ['music'],
  },
  {
    id: 'finish',
    keys: [],
    group: 'view',
  },
  {
    id: 'video',
    keys: [],
    group: 'view',
  },
  {
    id: 'shelf',
    keys: [],
    group: 'view',
  },
  {
    id: 'versions',
    keys: [],
    group: 'view',
  },
  {
    id: 'saveCopy',
    keys: [],
    group: 'view',
  },
  {
    id: 'lessons',
    keys: [],
    group: 'view',
  },
  { id: 'captions', keys: ['shift+c'], group: 'view' },
  {
    id: 'correctCaptions',
    keys: [],
    group: 'view',
  },
  { id: 'largerPicture', keys: [], group: 'view' },
  { id: 'larger', keys: ['+'], group: 'view' },
  { id: 'smaller', keys: ['-'], group: 'view' },
  { id: 'tallerWave', keys: ['w'], group: 'view' },
  {
    id: 'menu',
    keys: ['shift+f10', 'contextmenu'],
    group: 'view',
  },
  { id: 'commands', keys: ['mod+k'], group: 'view' },
  { id: 'help', keys: ['?'], group: 'view' },
] as const satisfies readonly (Omit<Action, 'id'> & { id: string })[]

export type ActionId = (typeof ACTIONS)[number]['id']
/** What each of them does. */
export type SheetActions = Record<ActionId, () => void>
/** Undo and redo belong to the lesson, whatever view is shown: their keys are heard by its header. */
export const OF_THE_LESSON: readonly ActionId[] = ['undo', 'redo']

/** As a menu says it. */
export const actionTitle = ({ id }: Pick<Action, 'id'>): string => say(`actions.${id}`)

/**
 * Everything that can be done on the sheet: the one place from which keys, menus, the list of keys and the list of commands
 * come. What each of them does stands in useSheetActions.ts.
 */
export const GROUPS = {
  listen: 'Listen',
  go: 'Go',
  choose: 'Select',
  words: 'Words',
  steps: 'Steps',
  music: 'Music',
  view: 'View',
} as const
export type ActionGroup = keyof typeof GROUPS

export interface Action {
  id: string
  /** As a menu says it. */
  title: string
  /** The chords that do it (keys.ts); the first is the one that is shown. */
  keys: readonly string[]
  group: ActionGroup
  /** Other words by which somebody would look for it. */
  also: string
  /** Whether the menu of a row has it. */
  inMenu?: boolean
}

export const ACTIONS = [
  { id: 'play', title: 'Play or pause', keys: ['space'], group: 'listen', also: 'start stop hear listen' },
  {
    id: 'playStep',
    title: 'Play this step',
    keys: ['shift+space'],
    group: 'listen',
    also: 'hear listen slide again',
    inMenu: true,
  },
  { id: 'wordBack', title: 'A word back', keys: ['left'], group: 'go', also: 'caret previous' },
  { id: 'wordOn', title: 'A word on', keys: ['right'], group: 'go', also: 'caret next' },
  { id: 'phraseBack', title: 'A phrase back', keys: ['mod+left'], group: 'go', also: 'caret previous' },
  { id: 'phraseOn', title: 'A phrase on', keys: ['mod+right'], group: 'go', also: 'caret next' },
  { id: 'sentenceBack', title: 'A sentence back', keys: ['alt+left'], group: 'go', also: 'caret previous' },
  { id: 'sentenceOn', title: 'A sentence on', keys: ['alt+right'], group: 'go', also: 'caret next' },
  { id: 'stepBack', title: 'A step back', keys: ['up'], group: 'go', also: 'previous slide' },
  { id: 'stepOn', title: 'A step on', keys: ['down'], group: 'go', also: 'next slide' },
  { id: 'firstStep', title: 'To the first step', keys: ['home'], group: 'go', also: 'beginning top' },
  { id: 'lastStep', title: 'To the last step', keys: ['end'], group: 'go', also: 'bottom' },
  { id: 'find', title: 'Find words, or a step by its number', keys: ['mod+f'], group: 'go', also: 'search text' },
  { id: 'selectBack', title: 'Select a word back', keys: ['shift+left'], group: 'choose', also: 'mark' },
  { id: 'selectOn', title: 'Select a word on', keys: ['shift+right'], group: 'choose', also: 'mark' },
  { id: 'selectPhraseBack', title: 'Select a phrase back', keys: ['mod+shift+left'], group: 'choose', also: 'mark' },
  { id: 'selectPhraseOn', title: 'Select a phrase on', keys: ['mod+shift+right'], group: 'choose', also: 'mark' },
  { id: 'selectStepBack', title: 'Select the step before too', keys: ['shift+up'], group: 'choose', also: 'mark' },
  { id: 'selectStepOn', title: 'Select the next step too', keys: ['shift+down'], group: 'choose', also: 'mark' },
  { id: 'selectAll', title: 'Select all steps', keys: ['mod+a'], group: 'choose', also: 'mark everything' },
  {
    id: 'cut',
    title: 'Cut the selected words or steps',
    keys: ['mod+x'],
    group: 'words',
    also: 'take out move',
    inMenu: true,
  },
  {
    id: 'copy',
    title: 'Copy the selected words or steps',
    keys: ['mod+c'],
    group: 'words',
    also: 'another lesson',
    inMenu: true,
  },
  {
    id: 'paste',
    title: 'Paste',
    keys: ['mod+v'],
    group: 'words',
    also: 'insert put in sounds',
    inMenu: true,
  },
  {
    id: 'remove',
    title: 'Delete the selected words or steps',
    keys: ['delete'],
    group: 'words',
    also: 'remove cut out silence mistake erase',
    inMenu: true,
  },
  {
    id: 'breakHere',
    title: 'Start the next step at the caret',
    keys: ['enter'],
    group: 'steps',
    also: 'break split new slide here divide',
    inMenu: true,
  },
  {
    id: 'breakAtPlayhead',
    title: 'Start the next step where it plays now',
    keys: ['s'],
    group: 'steps',
    also: 'break split new slide playing divide',
  },
  {
    id: 'join',
    title: 'Join this step with the one before',
    keys: ['backspace'],
    group: 'steps',
    also: 'merge unite together combine',
    inMenu: true,
  },
  {
    id: 'moveUp',
    title: 'Move the selected steps up',
    keys: ['alt+up'],
    group: 'steps',
    also: 'order earlier',
    inMenu: true,
  },
  {
    id: 'moveDown',
    title: 'Move the selected steps down',
    keys: ['alt+down'],
    group: 'steps',
    also: 'order later',
    inMenu: true,
  },
  {
    id: 'duplicate',
    title: 'Duplicate the selected steps',
    keys: ['mod+d'],
    group: 'steps',
    also: 'copy twice again',
    inMenu: true,
  },
  { id: 'undo', title: 'Undo', keys: ['mod+z'], group: 'steps', also: 'take back mistake' },
  { id: 'redo', title: 'Do again', keys: ['mod+y', 'mod+shift+z'], group: 'steps', also: 'redo forward' },
  {
    id: 'musicSofter',
    title: 'Make the music quieter under the voice',
    keys: [],
    group: 'music',
    also: 'softer lower volume bed background song clearance further',
  },
  {
    id: 'musicLouder',
    title: 'Make the music louder under the voice',
    keys: [],
    group: 'music',
    also: 'higher volume bed background song clearance nearer',
  },
  {
    id: 'booth',
    title: 'Record or read this step: go to the booth',
    keys: [],
    group: 'view',
    also: 'microphone voice narration take clean-up noise pause silence stand-in synthesised',
  },
  {
    id: 'balance',
    title: 'Weigh voice and music: go to the balance',
    keys: [],
    group: 'view',
    also: 'loudness volume pocket mix level',
  },
  {
    id: 'finish',
    title: 'Make the video or sound: go to finish',
    keys: [],
    group: 'view',
    also: 'export render download deliver check credits mp4 wav save',
  },
  { id: 'larger', title: 'Larger scale', keys: ['+'], group: 'view', also: 'zoom in bigger' },
  { id: 'smaller', title: 'Smaller scale', keys: ['-'], group: 'view', also: 'zoom out' },
  { id: 'tallerWave', title: 'Taller wave, round again', keys: ['w'], group: 'view', also: 'waveform height' },
  {
    id: 'menu',
    title: 'Menu of this step',
    keys: ['shift+f10', 'contextmenu'],
    group: 'view',
    also: 'context right click',
  },
  { id: 'commands', title: 'Find something to do', keys: ['mod+k'], group: 'view', also: 'command search help' },
  { id: 'help', title: 'List of keys', keys: ['?'], group: 'view', also: 'shortcuts keyboard help' },
] as const satisfies readonly Action[]

export type ActionId = (typeof ACTIONS)[number]['id']
/** What each of them does. */
export type SheetActions = Record<ActionId, () => void>

/** Undo and redo belong to the lesson, whatever view is shown: their keys are heard by its header. */
export const OF_THE_LESSON: readonly ActionId[] = ['undo', 'redo']

/** What is looked for by some letters: each word of them begins a word of its title or of the words beside it. */
export function actionsNamed(sought: string, actions: readonly Action[] = ACTIONS): Action[] {
  const parts = words(sought)
  return actions.filter(({ title, also }) => {
    const own = words(`${title} ${also}`)
    return parts.every((part) => own.some((word) => word.startsWith(part)))
  })
}

/** Little words that people put between say nothing. */
const LITTLE = new Set([
  'the',
  'a',
  'an',
  'to',
  'of',
  'this',
  'my',
  'me',
  'i',
  'want',
  'how',
  'do',
  'can',
  'it',
  'at',
  'in',
])
const words = (text: string): string[] =>
  text
    .toLocaleLowerCase()
    .split(/[^\p{L}\p{N}-]+/u)
    .filter((word) => word !== '' && !LITTLE.has(word))

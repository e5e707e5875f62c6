/**
 * Everything that can be done on the sheet: the one place from which keys, menus, the list of keys and the list of commands
 * come. What each of them does stands beside it: goActions.ts, wordActions.ts, stepActions.ts, thingActions.ts,
 * musicActions.ts.
 */
export const GROUPS = {
  listen: 'Listen',
  go: 'Go',
  choose: 'Select',
  words: 'Words',
  steps: 'Steps',
  things: 'Sounds and pictures on the sheet',
  music: 'Music',
  length: 'Length',
  view: 'View',
} as const
export type ActionGroup = keyof typeof GROUPS

/** What a menu of the sheet can be about. */
export type MenuOf = 'step' | 'words' | 'thing' | 'music' | 'length'

export interface Action {
  id: string
  /** As a menu says it. */
  title: string
  /** The chords that do it (keys.ts); the first is the one that is shown. */
  keys: readonly string[]
  group: ActionGroup
  /** Other words by which somebody would look for it. */
  also: string
  /** The menus that have it. */
  menus?: readonly MenuOf[]
}

export const ACTIONS = [
  { id: 'play', title: 'Play or pause', keys: ['space'], group: 'listen', also: 'start stop hear listen' },
  {
    id: 'playStep',
    title: 'Play this step',
    keys: ['shift+space'],
    group: 'listen',
    also: 'hear listen slide again',
    menus: ['step', 'words', 'thing', 'music', 'length'],
  },
  { id: 'wordBack', title: 'A word back', keys: ['left'], group: 'go', also: 'caret previous', menus: ['thing'] },
  { id: 'wordOn', title: 'A word on', keys: ['right'], group: 'go', also: 'caret next', menus: ['thing'] },
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
    title: 'Cut what is selected',
    keys: ['mod+x'],
    group: 'words',
    also: 'take out move',
    menus: ['step', 'words'],
  },
  {
    id: 'copy',
    title: 'Copy what is selected',
    keys: ['mod+c'],
    group: 'words',
    also: 'another lesson',
    menus: ['step', 'words', 'thing'],
  },
  {
    id: 'paste',
    title: 'Paste',
    keys: ['mod+v'],
    group: 'words',
    also: 'insert put in sounds',
    menus: ['step', 'words'],
  },
  {
    id: 'remove',
    title: 'Delete what is selected',
    keys: ['delete'],
    group: 'words',
    also: 'remove cut out take out silence mistake erase',
    menus: ['step', 'words', 'thing'],
  },
  {
    id: 'correct',
    title: 'Correct this word',
    keys: ['f2'],
    group: 'words',
    also: 'change text spelling subtitle caption typo write edit',
    menus: ['words'],
  },
  {
    id: 'pauseLonger',
    title: 'A longer pause before this word',
    keys: ['p'],
    group: 'words',
    also: 'silence put in gap wait insert',
    menus: ['words'],
  },
  {
    id: 'pauseShorter',
    title: 'A shorter pause before this word',
    keys: ['shift+p'],
    group: 'words',
    also: 'silence gap less tighten',
    menus: ['words'],
  },
  {
    id: 'breakHere',
    title: 'Start the next step at the caret',
    keys: ['enter'],
    group: 'steps',
    also: 'break split new slide here divide',
    menus: ['words', 'step'],
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
    menus: ['step'],
  },
  {
    id: 'moveUp',
    title: 'Move the selected steps up',
    keys: ['alt+up'],
    group: 'steps',
    also: 'order earlier',
    menus: ['step'],
  },
  {
    id: 'moveDown',
    title: 'Move the selected steps down',
    keys: ['alt+down'],
    group: 'steps',
    also: 'order later',
    menus: ['step'],
  },
  {
    id: 'duplicate',
    title: 'Duplicate the selected steps',
    keys: ['mod+d'],
    group: 'steps',
    also: 'copy twice again',
    menus: ['step'],
  },
  {
    id: 'addCard',
    title: 'Add a card after this step',
    keys: [],
    group: 'steps',
    also: 'new text title slide insert',
    menus: ['step'],
  },
  { id: 'undo', title: 'Undo', keys: ['mod+z'], group: 'steps', also: 'take back mistake' },
  { id: 'redo', title: 'Do again', keys: ['mod+y', 'mod+shift+z'], group: 'steps', also: 'redo forward' },
  {
    id: 'pickNext',
    title: 'Choose the next sound, picture or music',
    keys: ['t'],
    group: 'things',
    also: 'tab effect select',
  },
  {
    id: 'letGo',
    title: 'Let go of what is chosen',
    keys: ['escape'],
    group: 'things',
    also: 'tab effect select unselect',
  },
  {
    id: 'thingEarlier',
    title: 'Move the chosen sound a moment earlier',
    keys: [','],
    group: 'things',
    also: 'tab effect nudge before shift',
    menus: ['thing'],
  },
  {
    id: 'thingLater',
    title: 'Move the chosen sound a moment later',
    keys: ['.'],
    group: 'things',
    also: 'tab effect nudge after shift',
    menus: ['thing'],
  },
  {
    id: 'addSound',
    title: 'Put a sound at this word…',
    keys: [],
    group: 'things',
    also: 'effect bell click second voice insert hang',
    menus: ['words', 'step'],
  },
  {
    id: 'addPicture',
    title: 'Show another picture from this word on…',
    keys: [],
    group: 'things',
    also: 'second slide image change',
    menus: ['words'],
  },
  {
    id: 'overTitle',
    title: 'Put a title over the picture',
    keys: [],
    group: 'things',
    also: 'words text caption heading subtitle overlay',
    menus: ['step'],
  },
  {
    id: 'overLabel',
    title: 'Put a label over the picture',
    keys: [],
    group: 'things',
    also: 'words text callout overlay annotate',
    menus: ['step'],
  },
  {
    id: 'overRing',
    title: 'Put a ring round something in the picture',
    keys: [],
    group: 'things',
    also: 'circle highlight point mark annotate',
    menus: ['step'],
  },
  {
    id: 'overArrow',
    title: 'Let an arrow point at something in the picture',
    keys: [],
    group: 'things',
    also: 'point highlight annotate',
    menus: ['step'],
  },
  {
    id: 'overCover',
    title: 'Cover something in the picture',
    keys: [],
    group: 'things',
    also: 'hide blur censor private secret pixel redact',
    menus: ['step'],
  },
  {
    id: 'overCloser',
    title: 'Come nearer to a part of the picture',
    keys: [],
    group: 'things',
    also: 'zoom enlarge magnify closer detail pan',
    menus: ['step'],
  },
  {
    id: 'overSlowMove',
    title: 'Let the picture move slowly',
    keys: [],
    group: 'things',
    also: 'drift pan zoom still photo motion',
    menus: ['step'],
  },
  {
    id: 'musicSofter',
    title: 'Make the music quieter under the voice',
    keys: [],
    group: 'music',
    also: 'softer lower volume bed background song clearance further whole lesson',
    menus: ['music'],
  },
  {
    id: 'musicLouder',
    title: 'Make the music louder under the voice',
    keys: [],
    group: 'music',
    also: 'higher volume bed background song clearance nearer whole lesson',
    menus: ['music'],
  },
  {
    id: 'musicSofterHere',
    title: 'Make the music quieter in this step',
    keys: [],
    group: 'music',
    also: 'softer lower volume bed background song here part',
    menus: ['music', 'step'],
  },
  {
    id: 'musicLouderHere',
    title: 'Make the music louder in this step',
    keys: [],
    group: 'music',
    also: 'higher volume bed background song here part',
    menus: ['music', 'step'],
  },
  {
    id: 'musicSettings',
    title: 'Pieces and settings of the music…',
    keys: [],
    group: 'music',
    also: 'bed background song add compose clearance swell tracks',
    menus: ['music'],
  },
  {
    id: 'lengthVoice',
    title: 'Let the step follow its voice',
    keys: [],
    group: 'length',
    also: 'duration timing long narration automatic',
    menus: ['length'],
  },
  {
    id: 'lengthFixed',
    title: 'Keep the step at the length it has now',
    keys: [],
    group: 'length',
    also: 'duration timing fixed seconds hold',
    menus: ['length'],
  },
  {
    id: 'lengthUntilNext',
    title: 'Let the step stay until the next word is said',
    keys: [],
    group: 'length',
    also: 'duration timing hold',
    menus: ['length'],
  },
  {
    id: 'booth',
    title: 'Record or read this step: go to the booth',
    keys: [],
    group: 'view',
    also: 'microphone voice narration take clean-up noise pause silence stand-in synthesised',
    menus: ['step'],
  },
  {
    id: 'balance',
    title: 'Weigh voice and music: go to the balance',
    keys: [],
    group: 'view',
    also: 'loudness volume pocket mix level',
    menus: ['music'],
  },
  {
    id: 'finish',
    title: 'Make the video or sound: go to finish',
    keys: [],
    group: 'view',
    also: 'export render download deliver check credits mp4 wav save',
  },
  {
    id: 'video',
    title: 'How the video looks: shape, size, grounds',
    keys: [],
    group: 'view',
    also: 'format aspect ratio portrait square resolution lines frame rate crop fit fill blur background settings transition fade',
  },
  {
    id: 'shelf',
    title: 'Files of the lesson: the shelf',
    keys: [],
    group: 'view',
    also: 'media pictures sounds licence replace deck import',
  },
  { id: 'captions', title: 'Show or hide captions', keys: ['shift+c'], group: 'view', also: 'subtitles text cc' },
  {
    id: 'correctCaptions',
    title: 'Correct the captions of this step',
    keys: [],
    group: 'view',
    also: 'subtitles wording line break spelling cc edit',
  },
  { id: 'largerPicture', title: 'Larger or smaller picture', keys: [], group: 'view', also: 'easel preview size side' },
  { id: 'larger', title: 'Larger scale', keys: ['+'], group: 'view', also: 'zoom in bigger' },
  { id: 'smaller', title: 'Smaller scale', keys: ['-'], group: 'view', also: 'zoom out' },
  { id: 'tallerWave', title: 'Taller wave, round again', keys: ['w'], group: 'view', also: 'waveform height' },
  {
    id: 'menu',
    title: 'Menu of what is selected',
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

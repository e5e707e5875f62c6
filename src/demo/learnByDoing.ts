/** The lesson that teaches the product by doing: six short steps, each of which asks for one thing. */
export interface LearnStep {
  title: string
  /** The card that is seen: what to do, in two lines at most. */
  lines: string[]
  sentences: string[]
}

export const LEARN: readonly LearnStep[] = [
  {
    title: 'Listen',
    lines: ['1. Listen', 'Press Space. Press it again to stop.'],
    sentences: [
      'This lesson teaches by doing.',
      'Press the space bar to listen, and once more to stop.',
      'Each line below is a step: one picture, and what is said over it.',
    ],
  },
  {
    title: 'Start the next step',
    lines: ['2. Start the next step', 'Click before the word Now, and press Enter.'],
    sentences: [
      'These words belong to two steps.',
      'Now they part: click before the word now, and press Enter.',
      'The next picture begins there, and undo brings it back.',
    ],
  },
  {
    title: 'Take words out',
    lines: ['3. Take words out', 'Select what is said twice, and press Delete.'],
    sentences: [
      'The tide turns, the tide turns twice a day.',
      'Hold Shift and press the arrow keys to select what is said twice, then press Delete.',
      'The sound goes with the words.',
    ],
  },
  {
    title: 'Move a sound',
    lines: ['4. Move a sound', 'Drag the tab of the bell to the word bell.'],
    sentences: ['A bell sounds too early here.', 'Take its tab with the mouse, and drag it to the word bell.'],
  },
  {
    title: 'Make the music quieter',
    lines: ['5. Make the music quieter', 'Right button on the music: quieter in this step.'],
    sentences: [
      'The music stays under the voice by itself.',
      'To have it quieter here, press the right mouse button on the music below this wave.',
    ],
  },
  {
    title: 'Say it yourself',
    lines: ['6. Say it yourself', 'In the booth, press R and speak.'],
    sentences: [
      'Now it is your turn.',
      'Go to the booth, press R, and say this in your own words.',
      'Then make the video, under Finish.',
    ],
  },
]

import { arrow, boat, points, SEA, text, type Slide } from './slideHtml'

/** The demo lesson that shows what hangs on words: what is shown in each step, and said, sentence by sentence. */
export interface CrossingStep {
  title: string
  show: { card: string[] } | { slide: Slide } | 'recording'
  sentences: string[]
}

const GREEN = '#3d6d4d'
const BROWN = '#8a5527'
const LAND = '<path d="M0 120C300 90 520 150 760 120L700 420C480 460 220 430 0 470Z" fill="#c9b48a"/>'
const POSTS = `<rect x="360" y="210" width="26" height="150" fill="#fff" stroke="${SEA}" stroke-width="4"/><rect x="520" y="150" width="26" height="150" fill="#fff" stroke="${SEA}" stroke-width="4"/>`
const CHURCH =
  '<path d="M620 250V170L650 120L680 170V250Z" fill="#5a4b7e"/><path d="M650 120V80M638 94H662" stroke="#5a4b7e" stroke-width="6"/>'

/** Shown from a word on, in the step with the posts. */
export const CHURCH_OPEN: Slide = {
  title: 'The church comes clear',
  accent: BROWN,
  drawing: `${LAND}${POSTS}${CHURCH}${boat(980, 520, 1.3, 4)}${arrow(960, 640, 690, 700)}${text(1180, 200, 'church clear of the posts:', 'big')}${text(1180, 270, 'turn to port now')}`,
}

export const CROSSING: readonly CrossingStep[] = [
  {
    title: 'Crossing the bar',
    show: { card: ['Crossing the bar', 'Coastal Skipper Basics', 'Skerrow Harbour sailing school'] },
    sentences: ['Crossing the bar of Skerrow Harbour.'],
  },
  {
    title: 'Look before you go',
    show: {
      slide: {
        title: 'Look before you go',
        accent: GREEN,
        drawing: `${points(0, 90, ['Watch the bar for five minutes', 'White water: wait', 'A bell at night: stay where you are'])}${boat(1330, 420, 1.5, -12)}`,
      },
    },
    sentences: [
      'Before you go, watch the bar for five minutes.',
      'White water means that you wait.',
      'And if you hear the bell, you stay where you are.',
    ],
  },
  {
    title: 'The harbour page once more',
    show: 'recording',
    sentences: [
      'Then look at the harbour page.',
      'First choose the port, the one with the bar.',
      'Next comes the day, and the table opens.',
      'The line that is marked tells you when there is water enough.',
    ],
  },
  {
    title: 'Two white posts',
    show: {
      slide: {
        title: 'Two white posts',
        accent: BROWN,
        drawing: `${LAND}${POSTS}${boat(980, 520, 1.3, -3)}${text(1180, 200, 'keep them in one line', 'big')}${text(1180, 270, 'all the way across')}`,
      },
    },
    sentences: [
      'Bring the two white posts into one line and keep them there.',
      'Now watch for the church.',
      'As soon as it comes clear, turn to port, and not before.',
    ],
  },
  {
    title: 'Over the bar',
    show: {
      slide: {
        title: 'Over the bar',
        accent: SEA,
        drawing: `${points(0, 90, ['Look back: remember how it looks', 'Write down the time', 'Tell the harbour office'])}${boat(1330, 360, 1.7, -6)}`,
      },
    },
    sentences: [
      'Once you are over, look back, for you have to come home the same way.',
      'Write down the time, and tell the harbour office that you are out.',
    ],
  },
]

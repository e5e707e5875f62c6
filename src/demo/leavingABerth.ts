import { arrow, boat, points, SEA, text, type Slide } from './slideHtml'

/** The raw material of the second demo lesson: a deck and what is said over it, in one reading. */
const PONTOON = '<rect x="0" y="120" width="1100" height="70" fill="#b99b6b"/>'
const BLUE = '#23558a'

export const LEAVING_A_BERTH: readonly { slide: Slide; words: string }[] = [
  {
    slide: {
      title: 'Leaving a berth',
      accent: SEA,
      drawing: `${PONTOON}${boat(520, 290, 1.8)}${text(0, 620, 'Coastal Skipper Basics, lesson 2', 'big')}`,
    },
    words:
      'Leaving a berth without shouting. That is all this lesson is about. Five minutes of thinking on the pontoon save a good deal of paint.',
  },
  {
    slide: {
      title: 'Wind or tide: which is stronger?',
      accent: BLUE,
      drawing: `${PONTOON}${boat(520, 290, 1.6)}${arrow(1400, 140, 1240, 300)}${text(1290, 120, 'wind')}${arrow(120, 520, 520, 520, SEA)}${text(120, 600, 'tidal stream')}`,
    },
    words:
      'First look up, then look down. The flag shows the wind, the weed on the piles shows the stream. Decide which of the two is stronger at the berth, for that one decides which end goes out first.',
  },
  {
    slide: {
      title: 'Ready before the engine',
      accent: '#3d6d4d',
      drawing: points(0, 120, [
        'Fenders: one more than you think',
        'Lines led back aboard, as slips',
        'Everybody knows the order',
        'Engine in gear for a moment, both ways',
      ]),
    },
    words:
      'Before you let go of anything, get ready. One more fender than you think you need. Lines led back aboard, so that nobody has to jump. Say aloud in which order they come off. And put the engine in gear for a moment, ahead and astern, to be sure that it answers.',
  },
  {
    slide: {
      title: 'Springing the bow out',
      accent: '#8a5527',
      drawing: `${PONTOON}${boat(520, 330, 1.7, 14)}${arrow(730, 420, 860, 520)}<path d="M330 290L620 190" stroke="#b0204f" stroke-width="8"/>${text(250, 620, 'astern, against the stern spring')}`,
    },
    words:
      'With the stream on the bow, the bow goes first. Take off all lines but the stern spring. Motor gently astern against it. The bow swings out by itself, slowly. When it points clear of the boat in front, go ahead, and slip the spring.',
  },
  {
    slide: {
      title: 'Springing the stern out',
      accent: '#5a4b7e',
      drawing: `${PONTOON}${boat(520, 330, 1.7, -14)}${arrow(310, 420, 180, 520)}<path d="M710 290L430 190" stroke="#b0204f" stroke-width="8"/>${text(250, 620, 'ahead, against the bow spring')}`,
    },
    words:
      'With the wind pushing you on, or the stream from behind, it is the stern that goes first. Now the bow spring holds. A fender at the bow takes the weight. Ahead, slowly, helm towards the pontoon. When the stern is well out, go astern and do not stop half way.',
  },
  {
    slide: {
      title: 'If it goes wrong',
      accent: SEA,
      drawing: points(0, 120, [
        'Stop. Drifting slowly harms nobody',
        'Fend off with fenders, never with feet',
        'Come back alongside and begin again',
      ]),
    },
    words:
      'And if it goes wrong? Stop the engine. A boat that drifts slowly harms nobody. Fend off with fenders, never with feet. Then come back alongside, laugh, and begin again. That is good seamanship.',
  },
]

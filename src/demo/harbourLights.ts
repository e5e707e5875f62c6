import type { DeckSlide } from './deck'

/** The deck of the lesson 'Lights of the harbour', as a teacher has it: with notes, and a slide that is left out. */

const NIGHT = '12213B'
const RED = 'B0204F'
const GREEN = '1D7A3A'
const LAMP = 'F6D365'
const SEA = '12475A'

export const HARBOUR_LIGHTS: readonly DeckSlide[] = [
  {
    title: 'Lights of the harbour',
    accent: NIGHT,
    isNight: true,
    lines: ['Coastal Skipper Basics', 'Skerrow Harbour sailing school'],
    marks: [
      { shape: 'rect', x: 10.2, y: 3.2, width: 0.9, height: 3, fill: 'FFFFFF' },
      { shape: 'ellipse', x: 10.15, y: 2.3, width: 1, height: 1, fill: LAMP },
    ],
    notes:
      'Lights of the harbour. By night a harbour looks like a town. This lesson shows which lights are meant for you.',
  },
  {
    title: 'Red to port, green to starboard',
    accent: SEA,
    lines: ['Coming in from the sea', 'Going out it is the other way round'],
    marks: [
      { shape: 'rect', x: 7.4, y: 3.6, width: 1.2, height: 1.6, fill: RED, text: 'can' },
      { shape: 'triangle', x: 10.2, y: 3.4, width: 1.6, height: 1.8, fill: GREEN, text: 'cone' },
    ],
    notes:
      'Coming in from the sea, keep red lights to port and green ones to starboard. By day the red buoy is a can, and the green one a cone. Going out it is the other way round.',
  },
  {
    title: 'Two lights in line',
    accent: SEA,
    isNight: true,
    lines: ['Upper light to the left: go left', 'Upper light to the right: go right', 'One above the other: go on'],
    marks: [
      { shape: 'line', x: 10, y: 2.6, width: 0, height: 4, fill: 'FFFFFF' },
      { shape: 'ellipse', x: 9.7, y: 2.4, width: 0.6, height: 0.6, fill: LAMP },
      { shape: 'ellipse', x: 9.75, y: 4.6, width: 0.5, height: 0.5, fill: LAMP },
    ],
    notes:
      'Two white lights stand behind each other on the hill. When the upper one is right above the lower one, you are in the channel. When it moves to the left, steer left until it is back.',
    over: { layer: 'ring', area: { x: 0.705, y: 0.29, width: 0.1, height: 0.42 } },
  },
  {
    title: 'How a light is written',
    accent: SEA,
    lines: [
      'Fl(3) 10s 12m 8M',
      'flashes, three at a time, every ten seconds',
      'twelve metres high, seen for eight miles',
    ],
    marks: [],
    notes:
      'On the chart each light is written in a line. Three flashes, every ten seconds, twelve metres above the water, and it is seen for eight miles. Count with the second hand of a watch, and you know which light it is.',
    over: { layer: 'underline', area: { x: 0.07, y: 0.315, width: 0.29, height: 0.03 } },
  },
  {
    title: 'For whoever teaches this',
    accent: '5A4B7E',
    lines: ['Bring two torches, and a red and a green glass'],
    marks: [],
    notes: 'Ask who has come in by night before.',
    isHidden: true,
  },
  {
    title: 'Tonight on the pier',
    accent: NIGHT,
    isNight: true,
    lines: [
      'Find the two lights in line',
      'Count the light on the pier head',
      'Name three lights that are not meant for you',
    ],
    marks: [{ shape: 'ellipse', x: 10.4, y: 3, width: 1.6, height: 1.6, fill: LAMP }],
    notes:
      'Tonight, stand on the pier for ten minutes. Find the two lights in line, count the one on the pier head, and name three that are not meant for you.',
  },
]

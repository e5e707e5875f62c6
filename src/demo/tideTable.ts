import { arrow, boat, points, SEA, table, text, tideCurve, type Slide } from './slideHtml'

/** The finished demo lesson: what is shown and said. `show` is a card, a slide, or the recording of the harbour page. */
export interface DemoStep {
  title: string
  show: { card: string[] } | { slide: Slide } | 'recording'
  words: string
}

const GREEN = '#3d6d4d'
const BROWN = '#8a5527'
const PLUM = '#5a4b7e'

const slide = (title: string, accent: string, drawing: string): DemoStep['show'] => ({
  slide: { title, accent, drawing },
})

const PAGE = [
  ['Time', 'Height'],
  ['04 12', '1.1 m'],
  ['10 31', '5.4 m'],
  ['16 40', '0.9 m'],
  ['22 55', '5.6 m'],
]
const TWELFTHS = [1, 2, 3, 3, 2, 1]
  .map(
    (part, i) =>
      `<rect x="${80 + i * 270}" y="${640 - part * 170}" width="210" height="${part * 170}" fill="${i === 2 || i === 3 ? '#b0204f' : SEA}"/>${text(140 + i * 270, 700, `hour ${i + 1}`, 'small')}${text(165 + i * 270, 610 - part * 170, `${part}`, 'big')}`,
  )
  .join('')

export const TIDE_TABLE: readonly DemoStep[] = [
  {
    title: 'Reading a tide table',
    show: { card: ['Reading a tide table', 'Coastal Skipper Basics', 'Skerrow Harbour sailing school'] },
    words: 'Reading a tide table, with Skerrow Harbour sailing school.',
  },
  {
    title: 'Why it matters',
    show: slide(
      'Why it matters',
      GREEN,
      `${points(0, 90, ['The harbour fills and empties twice a day', 'The bar is only safe with water over it', 'A mooring can dry out under you'])}${tideCurve(940, 80, 780, 420)}${boat(1180, 640, 1.1, -4)}`,
    ),
    words:
      'Twice a day the harbour fills and empties. Know when, and you know if the bar is safe to cross. Get it wrong, and you may spend six hours sitting on the mud, with everybody on the quay watching. This lesson takes you through one page of a table, column by column.',
  },
  {
    title: 'Find place and date',
    show: slide(
      'Find place and date',
      BROWN,
      `${table(
        0,
        40,
        [620, 420],
        [
          ['Skerrow Harbour', 'time zone UT'],
          ['Month', 'June'],
          ['Day', 'Thursday 12'],
        ],
        2,
      )}${points(0, 470, ['The name of the port stands at the top', 'The time zone stands beside it', 'The days run down the left edge'])}`,
    ),
    words:
      "Start at the top: the name of the port, and the time zone. Then run down the left edge to today's date. It sounds too simple to mention. And yet most mistakes begin right here, with the right day on the wrong page.",
  },
  {
    title: 'High water, low water',
    show: slide(
      'High water, low water',
      SEA,
      `${table(0, 40, [420, 420], PAGE, 2)}${tideCurve(980, 90, 740, 420, [
        { share: 0.25, label: '5.4 m' },
        { share: 0.5, label: '0.9 m' },
      ])}`,
    ),
    words:
      'Each day has four lines. On each, a time and a height. Now look at the heights: the larger heights are the high waters, the smaller ones the low. The space between them is the range. Today it is four and a half metres, which is a lot of water to come and go in six hours.',
  },
  {
    title: 'The harbour page',
    show: 'recording',
    words:
      "The harbour's own page shows the same figures. Choose the port, then the day, and read across. The line that is marked is the next high water.",
  },
  {
    title: 'Chart datum',
    show: slide(
      'Chart datum',
      PLUM,
      `<rect x="0" y="120" width="1000" height="330" fill="#cfe3ea"/><path d="M0 120h1000" stroke="${SEA}" stroke-width="8"/><path d="M0 450h1000" stroke="#b0204f" stroke-width="6" stroke-dasharray="24 16"/><path d="M0 640C240 560 520 660 1000 600V800H0Z" fill="#c9b48a"/>${text(1040, 135, 'water today')}${text(1040, 465, 'chart datum')}${text(1040, 620, 'sea bed')}${arrow(500, 440, 500, 135)}${text(540, 300, 'height of tide')}${arrow(760, 460, 760, 615, SEA)}${text(790, 550, 'charted depth')}`,
    ),
    words:
      'A height needs something to be measured from. That is chart datum: the lowest level the sea is likely to fall to. The chart gives the depth below it. The table gives the height above it. Add the two, and you have the water under your keel.',
  },
  {
    title: 'Summer time',
    show: slide(
      'Summer time',
      GREEN,
      `${table(
        0,
        60,
        [520, 420, 420],
        [
          ['', 'in the table', 'on your watch'],
          ['High water', '10 31', '11 31'],
          ['Low water', '16 40', '17 40'],
        ],
        1,
      )}${points(0, 500, ['Shaded months: the hour is already added', 'All others: add one hour yourself', 'Write down which one you used'])}`,
    ),
    words:
      'Mind the clock. Most tables are printed in universal time all the year round. In summer you add one hour. Some tables have done it for you, and shade those months. Look for the note at the foot of the page before you trust a single figure.',
  },
  {
    title: 'The rule of twelfths',
    show: slide('The rule of twelfths', BROWN, TWELFTHS),
    words:
      'Between low and high water the sea does not rise evenly. In the first hour it rises by one twelfth of the range. In the second by two. In the third and the fourth by three twelfths each. Then two again, and one at the last. So half of all the water comes in the middle two hours.',
  },
  {
    title: 'A worked example',
    show: slide(
      'A worked example',
      SEA,
      `${table(
        0,
        40,
        [760, 420],
        [
          ['Low water 16 40', '0.9 m'],
          ['Range', '4.7 m'],
          ['After two hours: 3 twelfths', '1.2 m'],
          ['Height at 18 40', '2.1 m'],
        ],
        3,
      )}${tideCurve(1260, 100, 460, 420, [{ share: 0.58, label: '2.1 m' }])}`,
    ),
    words:
      'Let us try it. Low water is at sixteen forty, with zero point nine metres. The range is four point seven. Two hours later three twelfths have come in. That is about one point two metres. So at eighteen forty there are two point one metres over datum. Stop here and work it out for yourself.',
  },
  {
    title: 'Springs and neaps',
    show: slide(
      'Springs and neaps',
      PLUM,
      `<circle cx="220" cy="200" r="90" fill="#fdfbf2" stroke="${SEA}" stroke-width="6"/><circle cx="220" cy="560" r="90" fill="#fdfbf2" stroke="${SEA}" stroke-width="6"/><path d="M220 470A90 90 0 0 1 220 650Z" fill="${SEA}"/>${text(380, 190, 'New and full moon: springs', 'big')}${text(380, 260, 'highest highs, lowest lows, strong streams')}${text(380, 550, 'Half moon: neaps', 'big')}${text(380, 620, 'small range, gentle streams')}`,
    ),
    words:
      'Twice a month, near new and full moon, the range is at its largest. Those are springs. In between, at half moon, come the neaps, when the sea moves least. The moon beside the date tells you which to expect. Two days late, usually, because the sea takes its time.',
  },
  {
    title: 'Weather changes it',
    show: slide(
      'Weather changes it',
      GREEN,
      `${points(0, 90, ['High pressure presses the sea down', 'Low pressure lets it rise: 1 hPa is about 1 cm', 'Wind on shore piles the water up'])}${arrow(1180, 120, 1180, 420)}${arrow(1420, 420, 1420, 120, SEA)}${text(1110, 490, 'high')}${text(1370, 490, 'low')}`,
    ),
    words:
      "A table knows the moon, but not the weather. High pressure presses the sea down, low pressure lets it rise. Ten hectopascals make about ten centimetres. A strong wind on shore piles the water up. So keep a margin, and never plan to the last hand's breadth.",
  },
  {
    title: 'Before you cast off',
    show: slide(
      'Before you cast off',
      SEA,
      `${points(0, 90, ['Right port, right day, right time zone', 'High and low water, and the range', 'Height at the time you cross the bar', 'A margin for the weather'])}${boat(1430, 330, 1.5, -8)}`,
    ),
    words:
      'Before you cast off, write four things on a card. The port and the day. High and low water. The height at the time you cross the bar. And your margin. Then put the card where the helm can see it. Fair winds, and see you on the water.',
  },
]

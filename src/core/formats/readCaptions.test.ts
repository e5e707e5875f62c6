import { readCaptions } from './readCaptions'
import { writeSrt, writeVtt } from './captionFiles'

const CAPTIONS = [
  { start: 0.5, end: 2.25, lines: ['Red & green', 'a < b'] },
  { start: 5, end: 6, lines: ['x < y and 3 > 2', 'tie a <b> to {\\an8} and </i>'] },
  { start: 3661, end: 3662.5, lines: ['Slack water.'] },
]
const READ = [
  { start: 0.5, end: 2.25, text: 'Red & green a < b' },
  { start: 5, end: 6, text: 'x < y and 3 > 2 tie a <b> to {\\an8} and </i>' },
  { start: 3661, end: 3662.5, text: 'Slack water.' },
]

test.each([
  ['WebVTT', writeVtt(CAPTIONS)],
  ['SubRip', writeSrt(CAPTIONS)],
  ['SubRip with returns and a mark of bytes', `\uFEFF${writeSrt(CAPTIONS).replaceAll('\n', '\r\n')}`],
])('what was written as %s is read again', (_, file) => {
  expect(readCaptions(file)).toEqual(READ)
})

test('names, styles, notes and places are no words; times may go without hours; order is by time', () => {
  const file = `WEBVTT - made by hand

STYLE
::cue { color: yellow }

NOTE not said

last
00:05.000 --> 00:06.000 line:10% align:start
<v Maren>Cast <i>off</i>

00:01.000 --> 00:02.000
{\\an8}Fend off
`
  expect(readCaptions(file)).toEqual([
    { start: 1, end: 2, text: 'Fend off' },
    { start: 5, end: 6, text: 'Cast off' },
  ])
})

test('a file without captions says so', () => {
  expect(() => readCaptions('Cast off.')).toThrow('There are no captions in this file.')
})

import { uniqueNames } from '@/core/course/fileNames'
import { measuredAsHtml } from '@/core/delivery/measured'
import { endingOf, fileNameOf, mediaTypeOf, OUTPUT_NAMES, outputOf } from './outputs'

test('every output has a name, an ending and a type of its own', () => {
  const names = OUTPUT_NAMES.map((name) => fileNameOf('Tides', name))
  for (const [i, name] of OUTPUT_NAMES.entries()) {
    expect(names[i]).toMatch(new RegExp(`^Tides.*\\.${endingOf(outputOf(name))}$`))
    expect(mediaTypeOf(outputOf(name))).toMatch(/^(video|audio|text|application)\//)
  }
  expect(new Set(names).size).toBe(names.length)
})

test('files that lie side by side keep their endings, and none takes the place of another', () => {
  expect(uniqueNames(['Tides.mp4', 'tides.mp4', 'A/B: "C".mp4', 'Tides.mp3', 'Tides.mp4'])).toEqual([
    'Tides.mp4',
    'tides 2.mp4',
    'A-B- -C-.mp4',
    'Tides.mp3',
    'Tides 3.mp4',
  ])
})

test('the table of a course is a page that shows titles as they are', () => {
  const page = measuredAsHtml('Tides & <more>', [{ lesson: 'A<b>', file: 'a.mp4', balance: null }])
  expect(page).toContain('<h1>Tides &amp; &lt;more&gt;</h1>')
  expect(page).toContain('<th scope="row">A&lt;b&gt;</th><td>a.mp4</td>')
})

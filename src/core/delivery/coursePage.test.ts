import { writeCoursePage, type PageContent } from './coursePage'

const page = (language: string): string => {
  const content: PageContent = {
    title: 'Knoten',
    language,
    captions: [],
    chapters: [],
    transcript: [],
    reportsTo: null,
  }
  return writeCoursePage(content)
}

test('a page says what it says in the language of the lesson', () => {
  expect(page('de-AT')).toContain('> Untertitel</label>')
  expect(page('de-AT')).not.toContain('lang="en"')
  expect(page('fr')).toContain('<summary>Transcription</summary>')
  expect(page('en-gb')).toContain('<summary>Transcript</summary>')
})

test('where that is not known it says it in English, and says that it is', () => {
  expect(page('nb')).toContain('<html lang="nb">')
  expect(page('nb')).toContain('<summary lang="en">Transcript</summary>')
})

test('what ends a script in a title ends none in the page', () => {
  const content: PageContent = {
    title: '</script><b>',
    language: 'en',
    captions: [],
    chapters: [],
    transcript: [],
    reportsTo: null,
  }
  expect(writeCoursePage(content)).not.toContain('</script><b>')
})

import type { Chapter } from '@/core/captions/chapters'
import type { Caption } from '@/core/captions/captions'
import { asXml } from '@/core/formats/xmlText'
import type { Seconds } from '@/core/units'
import { pageWordsOf, primary } from './pageWords'

/** A page by itself that shows a lesson: what it holds, and its text. It works from a folder, without a network. */

export interface PageContent {
  title: string
  language: string
  captions: Pick<Caption, 'start' | 'end' | 'lines'>[]
  chapters: Chapter[]
  /** What is said, in paragraphs, and when each of its steps begins. */
  transcript: { title: string; start: Seconds; paragraphs: string[] }[]
  /** Where the page tells how far somebody has come. */
  reportsTo: 'scorm12' | 'scorm2004' | 'cmi5' | null
}

/** The file that does what the page does (src/coursePage/). */
export const PLAYER_FILE = 'player.js'
export const VIDEO_FILE = 'lesson.mp4'

export function writeCoursePage(content: PageContent): string {
  const { title, language, chapters, transcript } = content
  const words = pageWordsOf(language)
  // Where the page's own words are in another language than what is said.
  const lang = words.language === primary(language) ? '' : ` lang="${words.language}"`
  const keys = ['P', 'B', 'N', 'T'].map((key, i) => `<kbd>${key}</kbd> ${words.whatKeysDo[i]}`)
  // What ends a script would end this one.
  const data = JSON.stringify(content).replaceAll('<', '\\u003c')
  const chapterItems = chapters.map(
    (chapter) =>
      `        <li><button type="button" data-time="${chapter.start.toFixed(3)}">${asXml(chapter.title)}</button></li>`,
  )
  const sections = transcript.map(({ title: step, start, paragraphs }) =>
    [
      `      <section data-from="${start.toFixed(3)}">`,
      `        <h3><button type="button" data-time="${start.toFixed(3)}">${asXml(step)}</button></h3>`,
      ...paragraphs.map((text) => `        <p>${asXml(text)}</p>`),
      '      </section>',
    ].join('\n'),
  )
  return `<!doctype html>
<html lang="${asXml(language)}">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>${asXml(title)}</title>
  <style>${STYLE}</style>
</head>
<body>
  <main>
    <h1>${asXml(title)}</h1>
    <video id="video" src="${VIDEO_FILE}" controls playsinline preload="metadata"></video>
    <p class="controls"${lang}>
      <label>${words.speed} <select id="speed"><option>0.75</option><option selected>1</option><option>1.25</option><option>1.5</option><option>2</option></select></label>
      <label><input type="checkbox" id="captions"> ${words.captions}</label>
      <label><input type="checkbox" id="keys" checked> ${words.keys}</label>
      <span id="done" role="status"></span>
    </p>
    <p class="keys"${lang}>${keys.join(', ')}.</p>
    <nav aria-labelledby="chapters-head">
      <h2 id="chapters-head"${lang}>${words.chapters}</h2>
      <ol id="chapters">
${chapterItems.join('\n')}
      </ol>
    </nav>
    <details>
      <summary${lang}>${words.transcript}</summary>
${sections.join('\n')}
    </details>
  </main>
  <script type="application/json" id="content">${data}</script>
  <script src="${PLAYER_FILE}"></script>
</body>
</html>
`
}

const STYLE = `
:root { color-scheme: light dark; font: 1.05rem/1.6 system-ui, sans-serif }
body { margin: 0; background: Canvas; color: CanvasText }
main { max-width: 60rem; margin: 0 auto; padding: 1rem }
h1 { font-size: 1.5rem; margin: 0 0 .75rem }
h2 { font-size: 1.1rem; margin: 1rem 0 .25rem }
h3 { font-size: 1rem; margin: 1rem 0 .25rem }
video { width: 100%; max-height: 75vh; background: #000 }
video::cue { font-family: system-ui, sans-serif; background: rgb(0 0 0 / .75); color: #fff }
.controls { display: flex; gap: 1.5rem; align-items: center; flex-wrap: wrap; margin: .5rem 0 }
.controls label { min-height: 2rem; display: inline-flex; gap: .5rem; align-items: center }
.keys { font-size: .9rem; margin: 0 }
kbd { border: 1px solid; border-radius: .2rem; padding: 0 .35rem }
ol { padding-left: 1.5rem; margin: 0 }
main button { font: inherit; text-align: left; background: none; border: 0; padding: .2rem .3rem; min-height: 1.75rem; color: LinkText; text-decoration: underline; cursor: pointer }
[aria-current=true] { font-weight: 700 }
:focus-visible { outline: 3px solid Highlight; outline-offset: 2px }
select { font: inherit }
`

import { shownText } from '@/core/narration/words/script'
import type { Timeline } from '@/core/lesson/timeline'
import { clock, secondOf } from './captionFiles'
import { asXml } from './xmlText'

/** What is said in a lesson, step by step, to be read. */
export interface TranscriptOptions {
  /** Whether each step says when it begins. */
  hasTimes: boolean
}

export function transcriptAsText(title: string, { steps }: Timeline, { hasTimes }: TranscriptOptions): string {
  const parts = steps.map(({ step, start }) => {
    const head = [hasTimes ? clock(secondOf(start), '.').slice(0, 8) : '', step.title].filter(Boolean).join('  ')
    return [head, paragraphsOf(step.script).join('\n')].filter(Boolean).join('\n')
  })
  return `${title}\n\n${parts.join('\n\n')}\n`
}

/** A page by itself, without anything from elsewhere. */
export function transcriptAsHtml(
  title: string,
  language: string,
  { steps }: Timeline,
  { hasTimes }: TranscriptOptions,
): string {
  const sections = steps.map(({ step, start }) => {
    const time = hasTimes ? `<time>${clock(secondOf(start), '.').slice(0, 8)}</time> ` : ''
    const said = paragraphsOf(step.script).map((one) => `    <p>${asXml(one)}</p>`)
    return [`  <section>`, `    <h2>${time}${asXml(step.title)}</h2>`, ...said, '  </section>'].join('\n')
  })
  return `<!doctype html>
<html lang="${asXml(language)}">
<head>
  <meta charset="utf-8">
  <title>${asXml(title)}</title>
  <style>body { font: 1.1rem/1.6 serif; max-width: 42rem; margin: 2rem auto; padding: 0 1rem } time { color: #555; font-weight: normal }</style>
</head>
<body>
  <h1>${asXml(title)}</h1>
${sections.join('\n')}
</body>
</html>
`
}

/** A script as it is read: by its paragraphs, without what only the speaker is told. */
export const paragraphsOf = (script: string): string[] => script.split('\n').map(shownText).filter(Boolean)

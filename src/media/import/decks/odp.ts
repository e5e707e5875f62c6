import { assertFewSlides, paragraphs, type SlideNotes, type SlideShow } from './slideShow'
import { elementsOf, firstOf, parseXml, type Element } from './xml'
import { readZipParts } from './zipParts'

/** Notes, titles and order of the slides of an OpenDocument presentation (ISO/IEC 26300). */
export async function readOdp(path: string, name: string): Promise<SlideShow> {
  const parts = await readZipParts(path, /^(content|styles)\.xml$/)
  const content = parseXml(parts.get('content.xml') ?? '')
  const hidden = hiddenStyles(content)
  const pages = [...elementsOf(content, 'draw:page')]
  assertFewSlides(pages.length, name)
  const slides = pages.map((page): SlideNotes => {
    const notes = firstOf(page, 'presentation:notes')
    return {
      title: linesOf(page, 'title').join(' '),
      notes: notes ? paragraphs(linesOf(notes, 'notes')) : '',
      isHidden: hidden.has(page.attributes['draw:style-name'] ?? ''),
    }
  })
  return { slides, fonts: fontsOf(content) }
}

/** Families that the document's own styles name: many more are declared. */
function fontsOf(content: Element): string[] {
  const named = [...elementsOf(content, 'style:text-properties')].map(
    ({ attributes }) => attributes['fo:font-family'] ?? attributes['style:font-name'] ?? '',
  )
  const bare = named.map((name) => name.replace(/^['"]|['"]$/g, ''))
  return [...new Set(bare.filter((name) => name && !name.startsWith('+')))]
}

/** Names of the styles of pages that are left out when the slides are shown. */
function hiddenStyles(content: Element): Set<string> {
  const hidden = [...elementsOf(content, 'style:style')].filter(
    (style) => firstOf(style, 'style:drawing-page-properties')?.attributes['presentation:visibility'] === 'hidden',
  )
  return new Set(hidden.map(({ attributes }) => attributes['style:name']!))
}

/** The paragraphs of the first frame that is meant for this; those of the notes are not the page's. */
function linesOf(within: Element, meant: string): string[] {
  const frame = framesOf(within).find(({ attributes }) => attributes['presentation:class'] === meant)
  return frame ? [...elementsOf(frame, 'text:p')].map((one) => textOf(one).replace(/\s+/g, ' ').trim()) : []
}

const framesOf = (within: Element): Element[] =>
  within.children.flatMap((child) => {
    if (typeof child === 'string' || child.name === 'presentation:notes') return []
    return child.name === 'draw:frame' ? [child] : framesOf(child)
  })

function textOf(element: Element): string {
  return element.children
    .map((child) => {
      if (typeof child === 'string') return child
      return /^text:(s|tab|line-break)$/.test(child.name) ? ' ' : textOf(child)
    })
    .join('')
}

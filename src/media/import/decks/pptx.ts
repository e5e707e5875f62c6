import { posix } from 'node:path'
import { assertFewSlides, paragraphs, type SlideNotes, type SlideShow } from './slideShow'
import { elementsOf, firstOf, parseXml, type Element } from './xml'
import { readZipParts } from './zipParts'

/** Notes, titles and order of the slides of an Office Open XML presentation (ISO/IEC 29500). */

const WANTED =
  /^ppt\/(presentation\.xml|slides\/[^/]+\.xml|notesSlides\/[^/]+\.xml|theme\/[^/]+\.xml|(\w+\/)?_rels\/.*)$/

export async function readPptx(path: string, name: string): Promise<SlideShow> {
  const parts = await readZipParts(path, WANTED)
  const presentation = parseXml(parts.get('ppt/presentation.xml') ?? '')
  const targetOf = relations(parts, 'ppt/presentation.xml')
  const named = [...elementsOf(presentation, 'p:sldId')].map(({ attributes }) => targetOf(attributes['r:id'] ?? ''))
  // Each part is read once, however often it is named.
  const shown = [...new Set(named)].filter((part) => part !== undefined && parts.has(part)) as string[]
  assertFewSlides(named.length, name)
  const slides = shown.map((part) => slideOf(parseXml(parts.get(part)!), notesOf(parts, part)))
  return { slides, fonts: fontsOf(parts) }
}

function slideOf(slide: Element, notes: string): SlideNotes {
  const isHidden = ['0', 'false'].includes(firstOf(slide, 'p:sld')?.attributes.show ?? '1')
  return { title: placeholder(slide, ['title', 'ctrTitle']).join(' '), notes, isHidden }
}

function notesOf(parts: ReadonlyMap<string, string>, slide: string): string {
  const part = relations(parts, slide)(/\/notesSlide$/)
  const text = part && parts.get(part)
  return text ? paragraphs(placeholder(parseXml(text), ['body'])) : ''
}

/** The paragraphs of the first shape that is meant for this. */
function placeholder(slide: Element, kinds: readonly string[]): string[] {
  for (const shape of elementsOf(slide, 'p:sp')) {
    const kind = firstOf(shape, 'p:ph')?.attributes.type
    if (kind && kinds.includes(kind))
      return [...elementsOf(shape, 'a:p')].map((one) => textOf(one).replace(/\s+/g, ' ').trim()).filter(Boolean)
  }
  return []
}

/** What is written in a paragraph; a line break in it parts words. */
function textOf(element: Element): string {
  if (element.name === 'a:br') return ' '
  return element.children
    .map((child) => (typeof child !== 'string' ? textOf(child) : element.name === 'a:t' ? child : ''))
    .join('')
}

/** Finds the part that a part refers to, by the reference's id or kind. */
function relations(parts: ReadonlyMap<string, string>, of: string): (which: string | RegExp) => string | undefined {
  const text = parts.get(posix.join(posix.dirname(of), '_rels', `${posix.basename(of)}.rels`))
  const list = text ? [...elementsOf(parseXml(text), 'Relationship')].map(({ attributes }) => attributes) : []
  return (which) => {
    const found = list.find(({ Id, Type = '' }) => (typeof which === 'string' ? Id === which : which.test(Type)))
    const target = found?.TargetMode === 'External' ? undefined : found?.Target
    return target && posix.join(posix.dirname(of), target).replace(/^.*?(?=ppt\/)/, '')
  }
}

/** Families that are named on slides; a theme's are meant where `+mj` or `+mn` stands. */
function fontsOf(parts: ReadonlyMap<string, string>): string[] {
  const named = [...parts].flatMap(([part, text]) =>
    /^ppt\/(slides|theme)\/[^/]+$/.test(part)
      ? [...text.matchAll(/<a:latin\b[^>]*\btypeface="([^"+]+)"/g)].map(([, name]) => name!)
      : [],
  )
  return [...new Set(named)]
}

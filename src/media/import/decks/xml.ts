import { SaxesParser } from 'saxes'

/** An element of an XML document, by its name with its prefix. */
export interface Element {
  name: string
  attributes: Record<string, string>
  children: (Element | string)[]
}

/** Far more than any slide has; a tree of so many takes some hundred megabytes. */
const MOST_ELEMENTS = 500_000
const DEEPEST = 250

/**
 * Reads an XML document into a tree. Throws where it is not well-formed, declares types (those can name other files), or has
 * more elements, or deeper ones, than any slide has.
 */
export function parseXml(text: string): Element {
  let count = 0
  const parser = new SaxesParser()
  const root: Element = { name: '', attributes: {}, children: [] }
  const open = [root]
  parser.on('doctype', () => {
    throw new Error('a document type is not read')
  })
  parser.on('error', (error) => {
    throw error
  })
  parser.on('opentag', ({ name, attributes }) => {
    count++
    if (count > MOST_ELEMENTS || open.length > DEEPEST) throw new Error('a part of this deck has too many elements')
    const element = { name, attributes, children: [] }
    open.at(-1)!.children.push(element)
    open.push(element)
  })
  parser.on('closetag', () => void open.pop())
  parser.on('text', (part) => void open.at(-1)!.children.push(part))
  parser.write(text.replace(/^\uFEFF/, '')).close()
  return root
}

/** All elements of this name below one, in the document's order. */
export function* elementsOf(within: Element, name: string): Generator<Element> {
  for (const child of within.children) {
    if (typeof child === 'string') continue
    if (child.name === name) yield child
    yield* elementsOf(child, name)
  }
}

export const firstOf = (within: Element, name: string): Element | undefined => elementsOf(within, name).next().value

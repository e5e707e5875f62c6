import { SaxesParser } from 'saxes'

/** An element of an XML document, by its name with its prefix. */
export interface Element {
  name: string
  attributes: Record<string, string>
  children: (Element | string)[]
}

/** Reads an XML document into a tree. Throws where it is not well-formed, or declares types: those can name other files. */
export function parseXml(text: string): Element {
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

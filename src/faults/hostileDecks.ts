import { buffer } from 'node:stream/consumers'
import type { Readable } from 'node:stream'
import yazl from 'yazl'
import type { HostileFile } from './hostileMedia'

/** Small drawings, decks and archives that would cost whoever opens them much time or memory. */

export async function hostileDecks(): Promise<HostileFile[]> {
  const decks = await Promise.all(
    Object.entries(DECKS).map(async ([name, parts]) => ({ name, bytes: await zipOf(parts) })),
  )
  return [...Object.entries(TEXTS).map(([name, text]) => ({ name, bytes: Buffer.from(text) })), ...decks]
}

const times = (count: number, part: (i: number) => string): string =>
  Array.from({ length: count }, (_, i) => part(i)).join('')

const svg = (inside: string, size = 'width="400" height="300"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${inside}</svg>`

const PDF_HEAD =
  '%PDF-1.7\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj\n'
const pdf = (box: string, contents: string, more = '') =>
  `${PDF_HEAD}3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 ${box}]/Contents 4 0 R/Resources<</XObject<</X 8 0 R>>/Pattern<</P 7 0 R>>>>>>endobj\n${stream(4, contents)}${more}trailer<</Root 1 0 R/Size 20>>\n%%EOF`
const stream = (id: number, text: string, more = '') =>
  `${id} 0 obj<<${more}/Length ${text.length}>>stream\n${text}\nendstream endobj\n`

const FORM = '/Type/XObject/Subtype/Form/BBox[0 0 320 180]'

const TEXTS: Record<string, string> = {
  'comments.svg': `${'<!---->'.repeat(120)}<x`,
  'comments.png': `${'<!---->'.repeat(5000)}<x`,
  'filters.svg': svg(
    `<filter id="f" x="0" y="0" width="1" height="1">${times(60, (i) => `<feTurbulence type="turbulence" baseFrequency="0.9" numOctaves="100" result="t${i}"/><feGaussianBlur in="t${i}" stdDeviation="400"/><feMorphology operator="dilate" radius="100"/>`)}</filter><rect width="4000" height="4000" filter="url(#f)"/>`,
    'width="4000" height="4000"',
  ),
  'uses.svg': svg(
    `<defs><g id="a0"><rect width="1" height="1"/></g>${times(11, (i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(10)}</g>`)}</defs><use href="#a11"/>`,
  ),
  'entities.svg': `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY e0 "aaaaaaaaaa">${times(9, (i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(10)}">`)}]>${svg('<text y="9">&e9;</text>')}`,
  'tall.svg': svg('<rect width="1" height="1"/>', 'width="1" height="1000000"'),
  'no size.svg': svg('<rect width="1" height="1"/>', 'width="1e400" height="-5"'),
  'dashes.svg': svg(
    '<circle cx="1500" cy="1500" r="1400" fill-opacity="0.01" stroke="red" stroke-dasharray="0.01 0.01"/>'.repeat(2000),
    'width="3000" height="3000"',
  ),
  'another file.svg': svg('<image href="file:///etc/passwd" width="9" height="9"/><rect width="90" height="90"/>'),
  'forms.pdf': pdf(
    '320 180',
    '/X Do',
    `${times(9, (i) => stream(8 + i, '/X Do '.repeat(10), `${FORM}/Resources<</XObject<</X ${9 + i} 0 R>>>>`))}${stream(17, '0 0 100 100 re f', FORM)}`,
  ),
  'patterns.pdf': pdf(
    '14400 14400',
    '/Pattern cs /P scn 0 0 14400 14400 re f',
    stream(
      7,
      '0 0 1 1 re f',
      '/Type/Pattern/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 1 1]/XStep 0.01/YStep 0.01/Resources<<>>',
    ),
  ),
  'strokes.pdf': pdf('320 180', '0 0 320 180 re f\n'.repeat(300_000)),
  'pages.pdf': `%PDF-1.7\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[${times(5000, (i) => `${100 + i} 0 R `)}]/Count 5000>>endobj\n${times(5000, (i) => `${100 + i} 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 320 180]>>endobj\n`)}trailer<</Root 1 0 R/Size 9000>>\n%%EOF`,
}

const OFFICE = 'http://schemas.openxmlformats.org'
const SPACES = `xmlns:a="${OFFICE}/drawingml/2006/main" xmlns:r="${OFFICE}/officeDocument/2006/relationships" xmlns:p="${OFFICE}/presentationml/2006/main"`
const relation = (id: string, type: string, target: string) =>
  `<Relationships xmlns="${OFFICE}/package/2006/relationships"><Relationship Id="${id}" Type="${OFFICE}/officeDocument/2006/relationships/${type}" Target="${target}"/></Relationships>`
const presentation = (slides: number) =>
  `<p:presentation ${SPACES}><p:sldIdLst>${times(slides, (i) => `<p:sldId id="${256 + i}" r:id="rId1"/>`)}</p:sldIdLst><p:sldSz cx="9144000" cy="6858000"/></p:presentation>`
const slide = (after: string) =>
  `<p:sld ${SPACES}><p:cSld><p:spTree><p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr/></p:spTree></p:cSld>${after}</p:sld>`

/** The parts of a PPTX whose slides are all one file. */
const pptx = (slides: number, after: string): Record<string, string> => ({
  '[Content_Types].xml': `<Types xmlns="${OFFICE}/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/ppt/presentation.xml" ContentType="application/vnd.openxmlformats-officedocument.presentationml.presentation.main+xml"/><Override PartName="/ppt/slides/slide1.xml" ContentType="application/vnd.openxmlformats-officedocument.presentationml.slide+xml"/></Types>`,
  '_rels/.rels': relation('rId1', 'officeDocument', 'ppt/presentation.xml'),
  'ppt/presentation.xml': presentation(slides),
  'ppt/_rels/presentation.xml.rels': relation('rId1', 'slide', 'slides/slide1.xml'),
  'ppt/slides/slide1.xml': slide(after),
})

const ODP = 'application/vnd.oasis.opendocument.presentation'
const odp = (pages: string): Record<string, string> => ({
  mimetype: ODP,
  'META-INF/manifest.xml': `<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.2"><manifest:file-entry manifest:full-path="/" manifest:media-type="${ODP}"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>`,
  'content.xml': `<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0" office:version="1.2"><office:body><office:presentation>${pages}</office:presentation></office:body></office:document-content>`,
})

const DECKS: Record<string, Record<string, string>> = {
  'one slide often.pptx': pptx(200_000, `<x>${'<y/>'.repeat(200_000)}</x>`),
  'fat.pptx': pptx(1, `<x>${'<y/>'.repeat(15_000_000)}</x>`),
  'deep.pptx': pptx(1, `${'<y>'.repeat(200_000)}${'</y>'.repeat(200_000)}`),
  'pages in pages.odp': odp(
    `${'<draw:page draw:name="x">'.repeat(1500)}${'<draw:frame/>'.repeat(10_000)}${'</draw:page>'.repeat(1500)}`,
  ),
  'many pages.odp': odp(times(5000, (i) => `<draw:page draw:name="p${i}"/>`)),
}

function zipOf(parts: Record<string, string>): Promise<Uint8Array> {
  const zip = new yazl.ZipFile()
  // The first part of an ODP stands as it is: by it the file is known.
  for (const [name, text] of Object.entries(parts))
    zip.addBuffer(Buffer.from(text), name, { compress: name !== 'mimetype' })
  zip.end()
  return buffer(zip.outputStream as Readable)
}

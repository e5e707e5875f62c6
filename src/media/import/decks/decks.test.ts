import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { writeFile, readFile } from 'node:fs/promises'
import { PassThrough } from 'node:stream'
import { buffer } from 'node:stream/consumers'
import PptxGenJS from 'pptxgenjs'
import sharp from 'sharp'
import yazl from 'yazl'
import { runProgram } from '../../process'
import { importing } from '../../testing/importing'
import { PARTS } from '../../store/store'
import { readPages } from './pageText'
import { readPptx } from './pptx'
import { readZipParts } from './zipParts'

/** Decks made by a generator and by LibreOffice itself: their looks, their notes, and what they must not do. */

const bench = importing()
const { at, take } = bench
beforeAll(() => writeDeck(at('mooring.pptx')))

const SLIDES = [
  { title: 'Coming alongside', colour: 'B0204F', notes: 'Come in slowly,\nand look at the wind & <the tide>.' },
  { title: 'Left out', colour: '12647A', notes: 'Nobody hears this.', isHidden: true },
  { title: 'Springs & lines', colour: '1D7A3A', notes: '' },
]

async function writeDeck(path: string): Promise<void> {
  const deck = new PptxGenJS()
  deck.layout = 'LAYOUT_16x9'
  const objects = [
    { placeholder: { options: { name: 'head', type: 'title' as const, x: 1, y: 1, w: 8, h: 1 }, text: '' } },
  ]
  deck.defineSlideMaster({ title: 'PLAIN', objects })
  for (const { title, colour, notes, isHidden } of SLIDES) {
    const slide = deck.addSlide({ masterName: 'PLAIN' })
    slide.background = { color: colour }
    slide.addText(title, { placeholder: 'head', fontFace: 'Skerrow Sans' })
    slide.addText('Fenders out, lines ready', { x: 1, y: 3, w: 8, h: 1 })
    if (notes) slide.addNotes(notes)
    if (isHidden) slide.hidden = true
  }
  await writeFile(path, (await deck.write({ outputType: 'nodebuffer' })) as Buffer)
}

async function pixel(hash: string, page: number): Promise<string> {
  const image = sharp(await bench.store.local(hash, PARTS.page(page))).extract({
    left: 60,
    top: 60,
    width: 1,
    height: 1,
  })
  const [r, g, b] = await image.removeAlpha().raw().toBuffer()
  return [r!, g!, b!]
    .map((value) => value.toString(16).padStart(2, '0'))
    .join('')
    .toUpperCase()
}

describe.each(['pptx', 'odp'])('slides as %s', (format) => {
  beforeAll(async () => {
    if (format === 'pptx') return
    const office = ['--headless', `-env:UserInstallation=file://${bench.folder}/profile`, '--convert-to', format]
    await runProgram('soffice', [...office, '--outdir', bench.folder, at('mooring.pptx')], { limit: 100, memory: 4e9 })
  })

  test('each becomes a picture as it looks, with its title, its words and what is to be said', async () => {
    const deck = await take(`mooring.${format}`)
    expect(deck).toMatchObject({ kind: 'deck', extension: format, hidden: [2], length: null })
    expect(deck.pages).toEqual(SLIDES.map(({ title }) => title))
    const plain = (notes: readonly string[]) => notes.map((one) => one.replace(/\s+/g, ' '))
    expect(plain(deck.notes)).toEqual(plain(SLIDES.map(({ notes }) => notes)))
    expect(deck.texts.every((text) => text.includes('Fenders out, lines ready'))).toBe(true)
    expect(await Promise.all(SLIDES.map((_, i) => pixel(deck.hash, i + 1)))).toEqual(SLIDES.map(({ colour }) => colour))
    expect(deck.note).toContain('Skerrow Sans')
  })
})

/** A presentation made of parts that are written here. */
async function putOdp(name: string, content: string): Promise<void> {
  const zip = new yazl.ZipFile()
  const type = 'application/vnd.oasis.opendocument.presentation'
  const manifest = `<?xml version="1.0"?><manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.2"><manifest:file-entry manifest:full-path="/" manifest:media-type="${type}"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>`
  zip.addBuffer(Buffer.from(type), 'mimetype', { compress: false })
  zip.addBuffer(Buffer.from(manifest), 'META-INF/manifest.xml')
  zip.addBuffer(Buffer.from(content), 'content.xml')
  zip.end()
  await writeFile(at(name), await buffer(zip.outputStream.pipe(new PassThrough())))
}

const pageWith = (frame: string) => `<?xml version="1.0"?><office:document-content
 xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"
 xmlns:presentation="urn:oasis:names:tc:opendocument:xmlns:presentation:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"
 xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0" office:version="1.2">
 <office:body><office:presentation><draw:page draw:name="one">${frame}</draw:page></office:presentation></office:body></office:document-content>`

test('a deck that names an address and a file of this machine gets neither', async () => {
  let asked = 0
  const server = createServer((_, response) => void (asked++, response.end()))
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready))
  const { port } = server.address() as AddressInfo
  const secret = at('secret.png')
  await writeFile(
    secret,
    await sharp({ create: { width: 40, height: 40, channels: 3, background: '#ff0000' } })
      .png()
      .toBuffer(),
  )
  const image = (href: string, x: number) =>
    `<draw:frame svg:x="${x}cm" svg:y="1cm" svg:width="9cm" svg:height="9cm"><draw:image xlink:href="${href}" xlink:type="simple" xlink:actuate="onLoad"/></draw:frame>`
  await putOdp('curious.odp', pageWith(image(`http://127.0.0.1:${port}/x.png`, 1) + image(`file://${secret}`, 12)))
  const deck = await take('curious.odp')
  expect(asked).toBe(0)
  // It would ask: the same deck in an open room does.
  const open = [
    '--headless',
    `-env:UserInstallation=file://${bench.folder}/open`,
    '--convert-to',
    'pdf',
    '--outdir',
    bench.folder,
  ]
  await runProgram('soffice', [...open, at('curious.odp')], { limit: 100, memory: 4e9 })
  server.close()
  expect(asked).toBeGreaterThan(0)
  const { data } = await sharp(await bench.store.local(deck.hash, PARTS.page(1)))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  let red = 0
  for (let i = 0; i < data.length; i += 3) if (data[i]! > 200 && data[i + 1]! < 60) red++
  expect(red).toBe(0)
})

test('what declares types of its own, or is no deck, is refused with a sentence', async () => {
  await putOdp('bomb.odp', `<!DOCTYPE a [<!ENTITY b "boom">]>${pageWith('').replace(/^<\?xml[^>]*>/, '')}`)
  await expect(take('bomb.odp')).rejects.toThrow(/damaged or incomplete: bomb\.odp/)
  const bytes = await readFile(at('mooring.pptx'))
  await writeFile(at('cut.pptx'), bytes.subarray(0, bytes.length - 4000))
  await expect(take('cut.pptx')).rejects.toThrow(/damaged or incomplete: cut\.pptx/)
  await expect(readZipParts(at('secret.png'), /./)).rejects.toThrow()
})

test('a deck of far too many slides is refused by their count, before any is read or drawn', async () => {
  const page = '<draw:page draw:name="a"/>'
  await putOdp('endless.odp', pageWith('').replace(/<draw:page[^]*<\/draw:page>/, page.repeat(501)))
  await expect(take('endless.odp')).rejects.toThrow(/501/)
  const slides = Array.from({ length: 501 }, (_, i) => `<p:sldId r:id="r${i}"/>`).join('')
  const zip = new yazl.ZipFile()
  zip.addBuffer(Buffer.from(`<p:a>${slides}</p:a>`), 'ppt/presentation.xml')
  zip.end()
  await writeFile(at('endless.pptx'), await buffer(zip.outputStream.pipe(new PassThrough())))
  await expect(readPptx(at('endless.pptx'), 'endless.pptx')).rejects.toThrow(/501/)
})

describe('what is written on the pages of a PDF', () => {
  const page = (number: number, lines: [top: number, font: number, text: string][]) =>
    [
      `<page number="${number}" position="absolute" top="0" left="0" height="1000" width="1600">`,
      ...lines.map(
        ([top, font, text]) => `<text top="${top}" left="9" width="9" height="9" font="${font}">${text}</text>`,
      ),
      '</page>',
    ].join('\n')
  const FONTS =
    '<fontspec id="0" size="18" family="A" color="#000"/>\n<fontspec id="1" size="60" family="A" color="#000"/>\n<fontspec id="2" size="30" family="A" color="#000"/>'

  test('the title is what is written largest, not what runs along the head of all pages', () => {
    const titles = ['Tides', 'Currents', 'Currents', 'Currents', 'Wind &amp; <b>sea</b>', 'Passage']
    const pages = titles.map((title, i) =>
      page(i + 1, [
        [10, 0, 'Introduction'],
        [12, 0, `${i + 1} of 6`],
        [100, 1, title],
        [160, 1, `part ${'abcdef'[i]}`],
        [500, 2, 'Something is explained here'],
      ]),
    )
    const read = readPages(`${FONTS}\n${pages.join('\n')}`, 6, true)
    expect(read.map(({ title }) => title)).toEqual([
      'Tides part a',
      'Currents part b',
      'Currents part c',
      'Currents part d',
      'Wind & sea part e',
      'Passage part f',
    ])
    expect(read[0]!.text).toContain('Introduction 1 of 6 Tides part a Something')
  })

  test('a name that is largest on every page is no title', () => {
    const pages = ['Tides', 'Wind', 'Waves', 'Fog'].map((title, i) =>
      page(i + 1, [
        [10, 1, 'Skerrow Harbour'],
        [200, 2, title],
      ]),
    )
    expect(readPages(`${FONTS}\n${pages.join('\n')}`, 4, true).map(({ title }) => title)).toEqual([
      'Tides',
      'Wind',
      'Waves',
      'Fog',
    ])
  })

  test('what is read from right to left is, however many pieces a line is printed in', () => {
    const pieces = ['לפשהו', ' ', 'תואגה', ' ', 'תלבט'].map((text): [number, number, string] => [100, 1, text])
    const [read] = readPages(`${FONTS}\n${page(1, [...pieces, [300, 2, 'm 2']])}`, 1, true)
    expect(read!.title).toBe('טבלת הגאות והשפל')
  })

  test('an outline that names nearly all pages is believed', () => {
    const pages = [1, 2].map((number) => page(number, [[100, 1, 'Large']]))
    const outline = '<outline>\n<item page="1">First</item>\n<item page="2">Second &amp; last</item>\n</outline>'
    expect(readPages(`${FONTS}\n${pages.join('\n')}\n${outline}`, 2, true).map(({ title }) => title)).toEqual([
      'First',
      'Second & last',
    ])
  })

  test('a page without any words has no title', () => {
    expect(readPages(page(1, []), 1, false)).toEqual([{ title: '', text: '' }])
  })
})

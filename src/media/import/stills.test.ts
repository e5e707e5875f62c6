import { writeFile } from 'node:fs/promises'
import sharp from 'sharp'
import type { MediaInfo } from '@/core/messages/media'
import { runProgram } from '../process'
import { PARTS } from '../store/store'
import { importing } from '../testing/importing'

/** Pictures of every kind that is taken: seen as they are, upright and in their own colours. */

const bench = importing()
const { at, put, take, ffmpeg } = bench

/** The colour at a place of a picture, in shares of it. */
async function colourIn(picture: string, x: number, y: number): Promise<number[]> {
  const { data, info } = await sharp(picture).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const at = Math.floor(y * info.height) * info.width + Math.floor(x * info.width)
  return [...data.subarray(at * 3, at * 3 + 3)]
}

test.each(['png', 'jpeg', 'webp'] as const)('%s becomes a page of its own shape', async (format) => {
  const picture = sharp({ create: { width: 400, height: 300, channels: 3, background: '#b0204f' } })
  const name = `red.${format === 'jpeg' ? 'jpg' : format}`
  await put(name, await picture.toFormat(format).toBuffer())
  const media = await take(name)
  expect(media).toMatchObject({ kind: 'still', pages: [''], channels: 0, length: null })
  const page = await bench.store.local(media.hash, PARTS.page(1))
  expect(await sharp(page).metadata()).toMatchObject({ width: 400, height: 300 })
  ;(await colourIn(page, 0.02, 0.5)).forEach((value, c) =>
    expect(Math.abs(value - [0xb0, 0x20, 0x4f][c]!)).toBeLessThan(6),
  )
})

const red = () => sharp({ create: { width: 400, height: 300, channels: 3, background: '#b0204f' } })
const drawing =
  '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><rect width="40" height="30" fill="#b0204f"/></svg>'
const pictures: [ending: string, make: (path: string) => Promise<unknown>][] = [
  ['avif', async (path) => writeFile(path, await red().avif({ quality: 90 }).toBuffer())],
  ['gif', async (path) => writeFile(path, await red().gif().toBuffer())],
  ['tif', async (path) => writeFile(path, await red().tiff().toBuffer())],
  ['bmp', async (path) => (await red().png().toFile(`${path}.png`), ffmpeg('-i', `${path}.png`, path))],
  ['svg', (path) => writeFile(path, drawing)],
  [
    'heic',
    async (path) => (
      await red().png().toFile(`${path}.png`),
      runProgram('heif-enc', ['-o', path, `${path}.png`], { limit: 60 })
    ),
  ],
]
test('of a file of several pictures, as telephones write them, the first is seen', async () => {
  await red().png().toFile(at('first.png'))
  await sharp(at('first.png')).negate().toFile(at('second.png'))
  await runProgram('heif-enc', ['-o', at('several.heic'), at('first.png'), at('second.png')], { limit: 60 })
  const { hash, pages } = await take('several.heic')
  const middle = await colourIn(await bench.store.local(hash, PARTS.page(1)), 0.5, 0.5)
  middle.forEach((value, c) => expect(Math.abs(value - [0xb0, 0x20, 0x4f][c]!)).toBeLessThan(8))
  expect(pages).toHaveLength(1)
})

test.each(pictures)('a picture as %s is seen as it is', async (ending, make) => {
  await make(at(`drawn.${ending}`))
  const { hash, kind, note } = await take(`drawn.${ending}`)
  expect({ kind, note }).toEqual({ kind: 'still', note: null })
  const middle = await colourIn(await bench.store.local(hash, PARTS.page(1)), 0.5, 0.5)
  middle.forEach((value, c) => expect(Math.abs(value - [0xb0, 0x20, 0x4f][c]!)).toBeLessThan(8))
})

test('a photo stands as its camera was held, and keeps its colours whatever profile they are written in', async () => {
  // Red on the left; turned by a quarter when it is shown (EXIF 6), so red comes to the top. In P3 it is 162, 47, 80.
  const left = Buffer.from('<svg width="400" height="300"><rect width="200" height="300" fill="#b0204f"/></svg>')
  const photo = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#ffffff' } })
    .composite([{ input: left }])
    .toColourspace('srgb')
    .withMetadata({ orientation: 6 })
    .withIccProfile('p3')
    .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
    .toBuffer()
  await put('photo.jpg', photo)
  const page = await bench.store.local((await take('photo.jpg')).hash, PARTS.page(1))
  expect(await sharp(page).metadata()).toMatchObject({ width: 300, height: 400 })
  ;(await colourIn(page, 0.5, 0.2)).forEach((value, c) =>
    expect(Math.abs(value - [0xb0, 0x20, 0x4f][c]!)).toBeLessThan(8),
  )
  expect(Math.min(...(await colourIn(page, 0.5, 0.8)))).toBeGreaterThan(247)
})

test('a drawing that names a file is drawn without it, and light writing on nothing stands on a dark ground', async () => {
  await put('secret.png', await red().png().toBuffer())
  const image = `<image href="file://${at('secret.png')}" width="40" height="30"/>`
  await put('curious.svg', drawing.replace(/<rect.*?\/>/, image))
  await put('light.svg', drawing.replace(/<rect.*?\/>/, '<circle cx="20" cy="15" r="5" fill="#ffffff"/>'))
  const page = async ({ hash }: MediaInfo) => bench.store.local(hash, PARTS.page(1))
  expect(await colourIn(await page(await take('curious.svg')), 0.5, 0.5)).toEqual([255, 255, 255])
  const light = await take('light.svg')
  expect(light.darkPages).toEqual([1])
  expect(await colourIn(await page(light), 0.5, 0.5)).toEqual([255, 255, 255])
  expect(Math.max(...(await colourIn(await page(light), 0.1, 0.2)))).toBeLessThan(60)
})

test('a picture that moves shows its first moment, and that is said', async () => {
  const frames = [0, 120].map((red) =>
    sharp({ create: { width: 64, height: 64, channels: 3, background: { r: red, g: 80, b: 80 } } })
      .png()
      .toBuffer(),
  )
  const moving = await sharp(await Promise.all(frames), { join: { animated: true } })
    .webp()
    .toBuffer()
  await put('moving.webp', moving)
  expect((await take('moving.webp')).note).toMatch(/only its first moment/)
})

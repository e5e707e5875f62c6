import sharp from 'sharp'
import { COMMON_FRAME } from '@/core/picture/frame'
import { drawCard } from './card'
import { canBeOutlined, widthOf } from './cardFonts'

/** How many pixels of a card are inked more than its ground is. */
async function ink(lines: string[]): Promise<number> {
  const { data } = await sharp(Buffer.from(await drawCard(lines, COMMON_FRAME)))
    .removeAlpha()
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true })
  return data.reduce((sum, value) => sum + (value < 110 ? 1 : 0), 0)
}

test.each([
  ['Polish, Czech, Hungarian', 'Łódź, příčka, dűlő, žlab'],
  ['Vietnamese', 'Đọc bảng thuỷ triều, chữ ệ'],
  ['Greek', 'Πίνακας παλιρροιών, ἀνεμος'],
  ['Cyrillic', 'Таблиця припливів, ђак, ғаж'],
])('%s is drawn as outlines, every letter of it', async (_, text) => {
  for (const weight of [400, 700] as const) {
    expect(canBeOutlined(text, 'plain', weight)).toBe(true)
    expect(widthOf(text, 'plain', weight, 56)).toBeGreaterThan(text.length * 15)
  }
  const svg = await drawCard([text, text], COMMON_FRAME)
  expect(svg).not.toContain('<image')
  expect(await ink([text, text])).toBeGreaterThan((await ink([''])) + 4000)
})

test('a script that none of our fonts has is set with what the machine has', async () => {
  const svg = await drawCard(['潮汐表', 'Title & more'], COMMON_FRAME)
  expect(canBeOutlined('潮汐表', 'plain', 700)).toBe(false)
  expect(svg.match(/<image/g)).toHaveLength(1)
  expect(await ink(['潮汐表'])).toBeGreaterThan((await ink([''])) + 500)
})

test('a line that is too long goes on below, and stays on the card', async () => {
  const once = (await drawCard(['Tide'], COMMON_FRAME)).match(/<path/g)!.length
  const long = (await drawCard(['Reading a tide table from top to bottom and back again'], COMMON_FRAME)).match(
    /<path/g,
  )!.length
  expect(long).toBeGreaterThan(once + 1)
})

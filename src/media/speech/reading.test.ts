import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { DEFAULT_READING } from '@/core/narration/speechVoice'
import { HOUSE_RATE } from '@/core/units'
import { folderObjects } from '../store/folderObjects'
import { openAssets, type Assets } from '../store/assets'
import { readAloud } from './reading'

let folder: string
let assets: Assets
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-reading-'))
  assets = openAssets(folderObjects(folder))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

test('what is written in figures and signs is read as it is said, each word at its time', async () => {
  const length = async (script: string, list: { word: string; saidAs: string }[] = []) =>
    (await readAloud(script, DEFAULT_READING, list, assets)).samples.length / HOUSE_RATE
  expect(await length('It costs $1,234.56 now.')).toBeCloseTo(await length('It costs 1234 dollars 56 now.'), 1)
  // What the author has said of it goes before.
  const own = [{ word: '$1,234.56', saidAs: 'a lot' }]
  expect(await length('It costs $1,234.56 now.', own)).toBeCloseTo(await length('It costs a lot now.'), 1)
  const { words } = await readAloud('See skerrow.example/tides for 12 m.', DEFAULT_READING, [], assets)
  expect(words.map(({ text }) => text)).toEqual(['See', 'skerrow.example/tides', 'for', '12', 'm.'])
  words.slice(1).forEach(({ start }, i) => expect(start).toBeGreaterThan(words[i]!.start + 0.05))
})

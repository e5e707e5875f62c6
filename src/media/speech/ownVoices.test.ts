import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { DEFAULT_READING } from '@/core/narration/speechVoice'
import { HOUSE_RATE } from '@/core/units'
import { folderObjects } from '../store/folderObjects'
import { openAssets, type Assets } from '../store/assets'
import { projectFolder } from '../settings'
import { readAloud } from './reading'
import { languageOf, listVoices } from './voices'

let folder: string
let assets: Assets
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-voices-'))
  assets = openAssets(folderObjects(folder))
  const program = join(projectFolder(), 'scripts', 'voice-stand-in.sh')
  const own = { name: 'Our own', language: 'de', licence: 'for lessons of the sailing school only' }
  const list = [
    { id: 'ours', ...own, command: [program, 'de', '{rate}'] },
    { id: 'broken', ...own, command: ['false'] },
    { id: 'mute', ...own, command: ['true'] },
    { id: 'gone', ...own, command: [join(folder, 'no-such-program')] },
  ]
  await writeFile(join(folder, 'voices.json'), JSON.stringify(list))
  process.env.YARN_STEP_VOICES = join(folder, 'voices.json')
})
afterAll(async () => {
  delete process.env.YARN_STEP_VOICES
  await rm(folder, { recursive: true, force: true })
})

const script = 'Der Hafen liegt im Osten. Bei Nebel hören wir auf die Glocke.'
const read = (voice: string, rate = 150) => readAloud(script, { ...DEFAULT_READING, voice, rate }, [], assets)

test('a program of this machine is a voice like the others, with its licence', async () => {
  expect(await listVoices()).toContainEqual({
    id: 'own:ours',
    name: 'Our own',
    language: 'de',
    licence: 'for lessons of the sailing school only',
  })
  expect(await languageOf('own:ours')).toBe('de')
})

test('it reads sentence by sentence at the rate that is asked for; its words are left to alignment', async () => {
  const slow = await read('own:ours', 120)
  const quick = await read('own:ours', 240)
  expect(slow.isTimed).toBe(false)
  expect(slow.words.map(({ text }) => text)).toEqual(script.split(' '))
  expect(slow.samples.length / HOUSE_RATE).toBeGreaterThan(2)
  expect(slow.samples.length).toBeGreaterThan(1.3 * quick.samples.length)
  const second = slow.words.find(({ text }) => text === 'Bei')!
  expect(second.start).toBeGreaterThan(slow.words[4]!.end + DEFAULT_READING.pause - 0.01)
})

test.each(['own:broken', 'own:mute', 'own:gone'])('%s says in a sentence that it did not work', async (voice) => {
  await expect(read(voice)).rejects.toThrow(/^The voice "Our own" did not read this: /)
})

test('without the setting there are none, and a list that is missing is told', async () => {
  const path = process.env.YARN_STEP_VOICES
  delete process.env.YARN_STEP_VOICES
  expect((await listVoices()).filter(({ id }) => id.startsWith('own:'))).toEqual([])
  await expect(read('own:ours')).rejects.toThrow('There is no voice "own:ours" on this machine')
  process.env.YARN_STEP_VOICES = join(folder, 'elsewhere.json')
  await expect(listVoices()).rejects.toThrow('YARN_STEP_VOICES')
  process.env.YARN_STEP_VOICES = path
})

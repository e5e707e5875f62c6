import { rm, writeFile } from 'node:fs/promises'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { tellApart } from '@/core/measure/speechOrMusic'
import { fluidsynth } from '@/media/instruments'
import { importMedia } from '@/media/import/import'
import { runProgram } from '@/media/process'
import { folderObjects } from '@/media/store/folderObjects'
import { openStore } from '@/media/store/store'
import { speechShareOf } from './speechShare'

const folder = mkdtempSync(join(tmpdir(), 'yarn-step-ears-'))
const store = openStore(folderObjects(join(folder, 'media')))
afterAll(() => rm(folder, { recursive: true, force: true }))

const WORDS =
  'Lower the fenders over the side before you leave. The spring line holds her while you turn the wheel. Watch the wind on the burgee, and not on the water.'
const HALL = 'aecho=0.8:0.7:23|61|97|131|173:0.5|0.4|0.33|0.28|0.2'
const at = (name: string) => join(folder, name)
const read = async (voice: string) => {
  await runProgram('espeak-ng', ['-v', voice, '-w', at(`${voice}.wav`), WORDS], { limit: 30 })
  return `${voice}.wav`
}
const filtered = async (name: string, filter: string) => {
  await runProgram('ffmpeg', ['-v', 'error', '-i', at(name), '-af', filter, at(`other ${name}`)], { limit: 30 })
  return `other ${name}`
}
/** Short notes of one instrument with rests between them: what levels and pauses alone take for speech. */
const solo = async (name: string, program: number) => {
  const note = (pitch: number) => [0, 0x90, pitch, 100, 0x60, 0x80, pitch, 0, 0x60, 0x90, pitch, 0]
  const notes = Array.from({ length: 40 }, (_, i) => note(60 + [0, 4, 7, 5, 9, 2, 11][i % 7]!)).flat()
  const track = [0, 0xc0, program, ...notes, 0, 0xff, 0x2f, 0]
  const midi = Buffer.from([...Buffer.from('MThd'), 0, 0, 0, 6, 0, 0, 0, 1, 1, 0xe0, ...Buffer.from('MTrk'), 0, 0, track.length >> 8, track.length & 255, ...track]) // prettier-ignore
  await writeFile(at(`${name}.mid`), midi)
  await fluidsynth(at(`${name}.mid`), at(`${name}.wav`))
  return `${name}.wav`
}

const shareOf = async (name: string) => {
  const { hash } = await importMedia(store, at(name), name)
  return { item: name, share: await speechShareOf(store, hash, (await store.analysis(hash))!) }
}

test('people and readers are speech, clean, by telephone and in a hall', async () => {
  const voices = [await read('en-gb'), await read('de'), await read('fr+f2')]
  voices.push(await filtered(voices[0]!, 'highpass=f=300,lowpass=f=3400'), await filtered(voices[1]!, HALL))
  for (const name of voices) expect(tellApart([await shareOf(name)]).voice).toEqual([name])
})

test('solo instruments with short notes and rests are music', async () => {
  for (const [name, program] of [
    ['xylophone', 13],
    ['piano', 0],
    ['clarinet', 71],
    ['choir', 52],
  ] as const) {
    const file = await solo(name, program)
    expect(tellApart([await shareOf(file)]).music).toEqual([file])
  }
})

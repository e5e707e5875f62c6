import { stepsAtEnd } from '@/core/course/sharedSteps'
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { createWriteStream } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import yazl from 'yazl'
import { writeWav } from '@/core/formats/wav'
import { styleOf } from '@/core/course/courseStyle'
import { documentOf } from '@/core/lesson/telling'
import { emptyLesson, newBed, newStep } from '@/core/lesson/newParts'
import { shelfItem } from '@/core/lesson/fromFile'
import { tones } from '@/core/testing/signals'
import { courseArchiveOf, readArchive, readCopy, writeArchive } from './archive'
import { importMedia } from './import/import'
import { assertCanBeMade } from './lessonMedia'
import { openStore, PARTS } from './store/store'
import { folderObjects } from './store/folderObjects'
import { entriesOf, openZip } from './zip'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-archive-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

async function lessonWithSound(name = 'one') {
  const store = openStore(folderObjects(join(folder, name)))
  await writeFile(join(folder, 'tone.wav'), writeWav([tones([[-20, 1]])], 48000))
  const media = await importMedia(store, join(folder, 'tone.wav'), 'tone.wav')
  const step = newStep('s', 'Tone', { kind: 'card', lines: ['Tone'] })
  step.passages = [{ id: 'p', media: media.hash, from: 0, to: 1, pause: 0 }]
  return { store, media, lesson: { ...emptyLesson('Copy me'), steps: [step], shelf: [shelfItem(media)] } }
}

async function zipOf(name: string, entries: Record<string, string>): Promise<string> {
  const zip = new yazl.ZipFile()
  for (const [entry, text] of Object.entries(entries)) zip.addBuffer(Buffer.from(text), entry)
  zip.end()
  const file = join(folder, name)
  await pipeline(zip.outputStream, createWriteStream(file))
  return file
}

test('a lesson and its files go into an archive and come out the same, in another store', async () => {
  const { store, media, lesson } = await lessonWithSound()
  const file = join(folder, 'copy.zip')
  await writeArchive(lesson, store, file)
  const other = openStore(folderObjects(join(folder, 'two')))
  expect(await readArchive(file, other)).toEqual(lesson)
  expect(await other.info(media.hash)).toEqual(media)
})

test('paths that climb out of the archive are refused, and nothing is written outside', async () => {
  // The writer refuses such names, so a harmless one of the same length is changed afterwards.
  const file = await zipOf('climbing.zip', { 'aa/climb.txt': 'x', 'lesson.json': '{}' })
  const bytes = await readFile(file)
  await writeFile(file, Buffer.from(bytes.toString('latin1').replaceAll('aa/climb.txt', '../climb.txt'), 'latin1'))
  await expect(readArchive(file, openStore(folderObjects(join(folder, 'three'))))).rejects.toThrow(/lead out of it/)
  expect(await readdir(tmpdir())).not.toContain('climb.txt')
})

test.each([
  ['no lesson', { 'notes.txt': 'hello' }, /not a saved lesson: there is no lesson\.json/],
  [
    'a broken document',
    { 'lesson.json': '{"format": 99}', 'media/media.json': '[]' },
    /damaged or was made by a newer version/,
  ],
  [
    'no list of media',
    { 'lesson.json': JSON.stringify(documentOf(emptyLesson('x'))) },
    /there is no media\/media\.json/,
  ],
])('an archive with %s is refused with a sentence', async (name, entries, sentence) => {
  const file = await zipOf(`${name}.zip`, entries as unknown as Record<string, string>)
  await expect(readArchive(file, openStore(folderObjects(join(folder, 'four'))))).rejects.toMatchObject({
    name: 'UserError',
    message: expect.stringMatching(sentence),
  })
})

test('a file in the archive that does not have the content its name says is refused', async () => {
  const { lesson, media } = await lessonWithSound()
  const list = [{ hash: media.hash, file: `${media.hash}.wav`, name: 'tone.wav' }]
  const file = await zipOf('changed.zip', {
    'lesson.json': JSON.stringify(documentOf(lesson)),
    'media/media.json': JSON.stringify(list),
    [`media/${media.hash}.wav`]: 'something else',
  })
  await expect(readArchive(file, openStore(folderObjects(join(folder, 'five'))))).rejects.toThrow(/has changed/)
})

test('what is no zip is refused', async () => {
  await writeFile(join(folder, 'no.zip'), 'no zip')
  await expect(readArchive(join(folder, 'no.zip'), openStore(folderObjects(join(folder, 'six'))))).rejects.toThrow(
    /not a saved lesson/,
  )
})

test('equal names in an archive are refused: nobody could tell which is meant', async () => {
  const zip = new yazl.ZipFile()
  for (const text of ['{}', JSON.stringify(documentOf(emptyLesson('x')))])
    zip.addBuffer(Buffer.from(text), 'lesson.json')
  zip.end()
  const file = join(folder, 'twice.zip')
  await pipeline(zip.outputStream, createWriteStream(file))
  await expect(readArchive(file, openStore(folderObjects(join(folder, 'seven'))))).rejects.toThrow('damaged')
})

test('parts beyond the ends of their files come out inside them', async () => {
  const { store, media, lesson } = await lessonWithSound()
  const wild = {
    ...lesson,
    steps: [{ ...lesson.steps[0]!, passages: [{ id: 'p', media: media.hash, from: 0.2, to: 900, pause: 0 }] }],
    bedCues: [{ ...newBed('b', media.hash, 's'), from: 500 }],
  }
  const file = join(folder, 'wild.zip')
  await writeArchive(wild, store, file)
  const opened = await readArchive(file, openStore(folderObjects(join(folder, 'eight'))))
  expect(opened.steps[0]!.passages[0]).toMatchObject({ from: 0.2, to: 1 })
  expect(opened.bedCues[0]!.from).toBeLessThan(1)
})

test('a lesson whose file is missing is saved without it, opens, and says what is missing when it is made', async () => {
  const { store, media, lesson } = await lessonWithSound()
  await rm(await store.local(media.hash, PARTS.original))
  const file = join(folder, 'lacking.zip')
  await writeArchive(lesson, store, file)
  const other = openStore(folderObjects(join(folder, 'nine')))
  const opened = await readArchive(file, other)
  expect(opened).toEqual(lesson)
  await expect(assertCanBeMade(opened, other)).rejects.toThrow(/These files are missing: Tone\. Bring them in again/)
})

test('more than there is room for is refused before anything is unpacked', async () => {
  const file = await zipOf('bomb.zip', {
    'lesson.json': JSON.stringify((await lessonWithSound()).lesson),
    'media/media.json': JSON.stringify([
      { hash: (await lessonWithSound()).media.hash, file: 'bomb', name: 'bomb.wav' },
    ]),
    'media/bomb': 'x'.repeat(1000),
  })
  // What the entry says of its size, made a terabyte large in the list of contents.
  const bytes = await readFile(file)
  const entry = bytes.lastIndexOf('media/bomb') - 46
  bytes.writeUInt32LE(0xfffffff0, entry + 24)
  await writeFile(file, Buffer.concat([bytes]))
  await expect(readArchive(file, openStore(folderObjects(join(folder, 'ten'))))).rejects.toMatchObject({
    name: 'UserError',
  })
})

test('a course goes into one archive and comes out the same: lessons in their order, shared files once', async () => {
  const { store, lesson } = await lessonWithSound('of a course')
  const lessons = [lesson, { ...lesson, title: 'Copy me, too' }, emptyLesson('Empty')]
  const head = {
    title: 'Basics',
    pronunciations: [{ word: 'Skerrow', saidAs: 'skerra' }],
    style: { ...styleOf(lesson), opening: 1 },
    ends: { first: stepsAtEnd(lesson, 'first', 1), last: null },
    delivery: ['video' as const],
  }
  const documents = lessons.map(documentOf)
  const file = join(folder, 'course.zip')
  const media = lesson.shelf.map((item) => item.media)
  await pipeline(await courseArchiveOf(head, documents, media, store), createWriteStream(file))
  const zip = await openZip(file)
  const names = [...(await entriesOf(zip, 100, (why) => new Error(why))).keys()]
  zip.close()
  expect(names.filter((name) => name.startsWith('media/'))).toHaveLength(2)
  const other = openStore(folderObjects(join(folder, 'other course')))
  expect(await readCopy(file, other)).toEqual({ course: head, lessons })
  expect(await other.has(media[0]!)).toBe(true)
  await expect(readArchive(file, other)).rejects.toThrow(/saved course, and a lesson is wanted/)
})

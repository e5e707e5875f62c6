import { mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { writeWav } from '@/core/formats/wav'
import { noise, tones } from '@/core/testing/signals'
import { importMedia } from '../import/import'
import { startBucket } from '../../../tests/support/bucket'
import { openAssets, type AssetNote } from './assets'
import { bucketObjects } from './bucketObjects'
import { DRAFTS, folderObjects } from './folderObjects'
import type { ObjectStore, StoredObject } from './objects'
import { openStore, PARTS, storeSource } from './store'

/** The store in a folder and in a bucket: both do the same. The bucket is of a server that starts on loopback. */

let folder: string
let bucket: Awaited<ReturnType<typeof startBucket>>

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-objects-'))
  bucket = await startBucket(join(folder, 'server'))
})
afterAll(async () => {
  await bucket.stop()
  await rm(folder, { recursive: true, force: true })
})

/** Another machine that uses the same bucket has a cache of its own. */
const machine = (name: string): ObjectStore => bucketObjects(bucket.settings, join(folder, name))

const STORES: [name: string, open: (name: string) => ObjectStore][] = [
  ['a folder', (name) => folderObjects(join(folder, `folder-${name}`))],
  ['a bucket', (name) => machine(`cache-${name}`)],
]

async function file(name: string, bytes: Uint8Array | string): Promise<string> {
  const path = join(folder, name)
  await writeFile(path, bytes)
  return path
}

async function all(objects: AsyncIterable<StoredObject>): Promise<StoredObject[]> {
  const found = []
  for await (const one of objects) found.push(one)
  return found.sort((a, b) => (a.name < b.name ? -1 : 1))
}

describe.each(STORES)('%s', (kind, openObjects) => {
  test('gives back what was put there, whole and in parts, lists it, and takes it away', async () => {
    const objects = openObjects('bytes')
    const bytes = Buffer.from(noise(5000, 1).buffer)
    const path = await file('bytes', bytes)
    expect(await objects.size('things/ab/one')).toBeNull()
    await expect(objects.local('things/ab/one')).rejects.toMatchObject({ name: 'UserError' })
    await expect(objects.open('things/ab/one')).rejects.toMatchObject({ name: 'UserError' })
    await objects.put('things/ab/one', path)
    await objects.put('things/ac/two', await file('two', 'two'))
    await objects.put('others/three', await file('three', 'three'))
    expect(await objects.size('things/ab/one')).toBe(bytes.length)
    expect(await buffer(await objects.open('things/ab/one'))).toEqual(bytes)
    expect(await buffer(await objects.open('things/ab/one', { from: 100, to: 1101 }))).toEqual(
      bytes.subarray(100, 1101),
    )
    expect(await readFile(await objects.local('things/ab/one'))).toEqual(bytes)
    // The file stays its owner's.
    expect(await readFile(path)).toEqual(bytes)
    expect((await all(objects.list('things/'))).map(({ name, bytes }) => [name, bytes])).toEqual([
      ['things/ab/one', bytes.length],
      ['things/ac/two', 3],
    ])
    const [{ changed }] = (await all(objects.list('others/'))) as [StoredObject]
    expect(Math.abs(Date.now() - changed.getTime())).toBeLessThan(60_000)
    await objects.remove('things/ab/one')
    await objects.remove('things/never/there')
    expect(await objects.size('things/ab/one')).toBeNull()
    await expect(objects.local('things/ab/one')).rejects.toMatchObject({ name: 'UserError' })
  })

  test('lists more than one page of names', async () => {
    const objects = openObjects('many')
    const path = await file('small', 'x')
    for (let i = 0; i < 1005; i += 15)
      await Promise.all(Array.from({ length: 15 }, (_, k) => objects.put(`many/${i + k}`, path)))
    expect(new Set((await all(objects.list('many/'))).map(({ name }) => name)).size).toBe(1005)
  })

  test('takes files of many parts', async () => {
    const [objects, elsewhere] = [
      openObjects('large'),
      kind === 'a folder' ? openObjects('large') : machine('large-too'),
    ]
    const bytes = Buffer.alloc(20 * 1024 ** 2, 'skerrow harbour')
    await objects.put('large/one', await file('large', bytes))
    expect(await objects.size('large/one')).toBe(bytes.length)
    expect((await buffer(await elsewhere.open('large/one'))).equals(bytes)).toBe(true)
    expect((await readFile(await elsewhere.local('large/one'))).equals(bytes)).toBe(true)
  })

  test('never gives a place outside of itself', async () => {
    const objects = openObjects('bytes')
    await expect(objects.local('../server/secret')).rejects.toMatchObject({ name: 'UserError' })
  })

  test('keeps media: brought in once, found, read, set aside and put back, taken out', async () => {
    const objects = openObjects('media')
    const notes: AssetNote[] = []
    const store = openStore(objects, (note) => notes.push(note))
    const path = await file('tone.wav', writeWav([tones([[-20, 1]])], 48000))
    const { hash, length } = await importMedia(store, path, 'Tone.wav')
    expect(length).toBe(1)
    // Kept under its first name; whoever brings it again finds it under theirs.
    expect(await importMedia(store, path, 'Again.wav')).toMatchObject({ hash, name: 'Again.wav' })
    expect(await store.info(hash)).toMatchObject({ name: 'Tone.wav' })
    const { source, close } = storeSource(store)
    const [samples] = await source(hash, 0, 48000)
    await close()
    expect(Math.max(...samples!)).toBeCloseTo(0.1, 2)
    expect((await store.analysis(hash))!.samples).toBe(48000)
    const { bytes } = (await store.stock()).get(hash)!
    expect(bytes).toBeGreaterThan(48000 * 4)
    expect(notes).toEqual([{ name: hash, kind: 'media', edition: '', sources: [], bytes }])

    await store.setAside(hash)
    expect(await store.has(hash)).toBe(false)
    await expect(store.info(hash)).rejects.toThrow('missing')
    expect((await store.stock()).get(hash)!.isSetAside).toBe(true)
    await store.putBack(hash)
    expect((await store.info(hash)).name).toBe('Tone.wav')
    await store.remove(hash)
    expect(await store.stock()).toEqual(new Map())
    // No half-made thing is left.
    const root = kind === 'a folder' ? 'folder-media' : 'cache-media'
    expect(await readdir(join(folder, root, DRAFTS))).toEqual([])
  })

  test('keeps what is made of them, makes it once, and anew where the edition is another', async () => {
    const notes: AssetNote[] = []
    const assets = openAssets(openObjects('assets'), (note) => notes.push(note))
    let made = 0
    const recipe = (edition: number) =>
      ({ kind: 'coded', edition, sources: ['a'], recipe: [1, 'x'], extension: 'h264' }) as const
    const make = async () => Buffer.from(`made ${++made}`)
    expect(await assets.find(recipe(1))).toBeNull()
    expect(String(await assets.bytes(recipe(1), make))).toBe('made 1')
    expect(String(await assets.bytes(recipe(1), make))).toBe('made 1')
    expect(String(await assets.bytes(recipe(2), make))).toBe('made 2')
    expect(String(await assets.find(recipe(1)))).toBe('made 1')
    expect(notes[0]).toMatchObject({ kind: 'coded', edition: '1', sources: ['a'], bytes: 6 })
    // Two who make the same at once do not get in each other's way.
    const slow = async () => {
      await new Promise((resolve) => setTimeout(resolve, 50))
      return Buffer.from('made by both')
    }
    const both = await Promise.all([assets.bytes(recipe(5), slow), assets.bytes(recipe(5), slow)])
    expect(both.map(String)).toEqual(['made by both', 'made by both'])
    await expect(
      assets.file(recipe(3), async (draft) => {
        await writeFile(draft, 'half')
        throw new Error('broken off')
      }),
    ).rejects.toThrow('broken off')
    expect(await assets.find(recipe(3))).toBeNull()
    const all = await assets.all([recipe(1), recipe(4), recipe(2)], async (missing, keep) => {
      expect(missing).toEqual([1])
      await keep(1, Buffer.from('made late'))
    })
    expect(all.map(String)).toEqual(['made 1', 'made late', 'made 2'])
  })
})

test('what one machine puts into a bucket, another one finds, also where its cache was emptied', async () => {
  const here = openStore(machine('here'))
  const { hash } = await importMedia(here, await file('tone-2.wav', writeWav([tones([[-20, 0.5]])], 48000)), 'Tone.wav')
  const there = openStore(machine('there'))
  expect(await there.has(hash)).toBe(true)
  expect((await there.analysis(hash))!.samples).toBe(24000)
  await rm(join(folder, 'there'), { recursive: true })
  // Many ask at once, and it is fetched once.
  const paths = await Promise.all(Array.from({ length: 8 }, () => there.local(hash, PARTS.sound)))
  expect(new Set(paths).size).toBe(1)
  expect((await readFile(paths[0]!)).length).toBe(24000 * 4)
})

test('a bucket that is away is told, not taken for an empty one', async () => {
  const away = bucketObjects(
    { endpoint: 'http://127.0.0.1:9/yarn-step', region: 'us-east-1', accessKeyId: 'a', secretAccessKey: 'b' },
    join(folder, 'away'),
  )
  await expect(away.size('media/x')).rejects.toThrow()
  await expect(all(away.list('media/'))).rejects.toThrow()
})

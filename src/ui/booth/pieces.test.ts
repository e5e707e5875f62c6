import 'fake-indexeddb/auto'
import { jest } from '@jest/globals'
import type { RecordingDetails } from '@/core/messages/arrival'
import { isHeld } from '../arrivals/ownArrivals'
import { keepPieces, keptRecordings, sendKept } from './pieces'

/** Pieces of a recording against a server that is away, forgets, or lets somebody else end the recording. */

interface Row {
  state: 'open' | 'finished'
  owner: string
  pieces: Map<number, Uint8Array>
}

/** What a server does with recordings, by the rules of `api/recordings`. */
const rows = new Map<string, Row>()
let isAway = false

const bytesOf = ({ pieces }: Row): Uint8Array => {
  const parts: Uint8Array[] = []
  for (let at = 0; pieces.has(at); at += parts.at(-1)!.length) parts.push(pieces.get(at)!)
  return Buffer.concat(parts)
}

const answer: typeof fetch = async (path, options = {}) => {
  if (isAway) throw new TypeError('away')
  const [, id, what] = /recordings(?:\/([\w-]+))?(?:\/(\w+))?/.exec(String(path))!
  const { 'x-yarn-step-owner': owner = '' } = options.headers as Record<string, string>
  if (id === undefined) {
    const { id: made } = JSON.parse(options.body as string) as { id: string }
    if (!rows.has(made)) rows.set(made, { state: 'open', owner, pieces: new Map() })
    return Response.json({ id: made })
  }
  const row = rows.get(id)
  if (!row) return Response.json({ error: 'gone' }, { status: 404 })
  if (what === 'pieces') {
    if (row.state !== 'open') return Response.json({ bytes: bytesOf(row).length }, { status: 410 })
    const offset = Number(new URL(String(path), 'http://x').searchParams.get('offset'))
    const piece = new Uint8Array(options.body as ArrayBuffer)
    if (offset > bytesOf(row).length) return Response.json({ bytes: bytesOf(row).length }, { status: 409 })
    row.pieces.set(offset, piece)
    return Response.json({ bytes: bytesOf(row).length })
  }
  if (what === 'finish') row.state = 'finished'
  return Response.json({ importId: id })
}

const details: RecordingDetails = {
  marks: [{ step: 's', at: 0 }],
  punch: null,
  room: null,
  trimmed: true,
  rate: 48000,
  voiceAt: null,
  extension: null,
}
const piece = (value: number) => new Uint8Array(100).fill(value).buffer
const begin = (id: string) => keepPieces({ id, lesson: 'l', kind: 'voice', details })
const own = globalThis.fetch

beforeEach(() => {
  rows.clear()
  isAway = false
  const held = new Set<string>()
  const request = async (name: string, ...rest: unknown[]) => {
    const work = rest.at(-1) as (lock: object | null) => Promise<unknown>
    if (rest.length > 1) return work(held.has(name) ? null : {})
    held.add(name)
    await work({})
    held.delete(name)
  }
  Object.assign(globalThis, { fetch: answer })
  Object.defineProperty(globalThis, 'navigator', { value: { locks: { request } }, configurable: true })
  const kept = new Map<string, string>()
  const localStorage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (k: string, v: string) => kept.set(k, v),
  }
  Object.assign(globalThis, { localStorage })
  jest.spyOn(console, 'error').mockImplementation(() => {})
})
afterEach(() => {
  Object.assign(globalThis, { fetch: own })
  jest.restoreAllMocks()
})

const valuesOf = (id: string) => [...bytesOf(rows.get(id)!)].filter((_, i) => i % 100 === 0)

test('all pieces reach the server in their order, also those of a time when it was away', async () => {
  const keeper = await begin('usual-one')
  await keeper.keep(piece(1))
  isAway = true
  await keeper.keep(piece(2))
  await keeper.keep(piece(3))
  setTimeout(() => (isAway = false), 1500)
  expect([await keeper.finish(), valuesOf('usual-one')]).toEqual(['usual-one', [1, 2, 3]])
  expect(keeper.progress()).toEqual({ sent: 300, kept: 300 })
})

test('a recording that somebody has thrown away meanwhile is there again, whole, with the next piece', async () => {
  const keeper = await begin('thrown-away')
  await keeper.keep(piece(1))
  await keeper.keep(piece(2))
  await new Promise((resolve) => setTimeout(resolve, 50))
  rows.delete('thrown-away')
  await keeper.keep(piece(3))
  expect([await keeper.finish(), valuesOf('thrown-away')]).toEqual(['thrown-away', [1, 2, 3]])
})

test('one that somebody has ended meanwhile goes on as another one, and nothing of it is dropped', async () => {
  const keeper = await begin('ended-early')
  await keeper.keep(piece(1))
  await new Promise((resolve) => setTimeout(resolve, 50))
  rows.get('ended-early')!.state = 'finished'
  await keeper.keep(piece(2))
  await keeper.describe({ ...details, marks: [...details.marks, { step: 't', at: 1 }] })
  await keeper.keep(piece(3))
  const id = await keeper.finish()
  expect([id === 'ended-early', id === keeper.id(), valuesOf(id)]).toEqual([false, true, [1, 2, 3]])
  expect(valuesOf('ended-early')).toEqual([1])
})

test('what a page that is gone has kept is sent at the next visit', async () => {
  const keeper = await begin('page-gone')
  isAway = true
  await keeper.keep(piece(7))
  await keeper.keep(piece(8))
  isAway = false
  // The page is gone with its lock: as if nobody had ever held it.
  Object.defineProperty(globalThis, 'navigator', {
    value: { locks: { request: async (_: string, __: object, work: (lock: object) => unknown) => work({}) } },
    configurable: true,
  })
  const left = (await keptRecordings('l')).filter(({ id }) => id === 'page-gone')
  await Promise.all(left.map(sendKept))
  expect(valuesOf('page-gone')).toEqual([7, 8])
  await keeper.finish()
})

test('one that the server refuses is told at once and by its end, and is found to be sent by another page', async () => {
  const keeper = await begin('refused-one')
  Object.assign(globalThis, { fetch: async () => Response.json({ error: 'No such lesson.' }, { status: 404 }) })
  await keeper.keep(piece(1))
  await new Promise((resolve) => setTimeout(resolve, 50))
  expect(keeper.trouble()).toBe('No such lesson.')
  expect(await isHeld('refused-one')).toBe(true)
  await expect(keeper.finish()).rejects.toThrow('No such lesson.')
  expect(await isHeld('refused-one')).toBe(false)
})

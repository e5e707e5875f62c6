import { jest } from '@jest/globals'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newStep, newStill } from '@/core/lesson/newParts'
import { documentOf } from '@/core/lesson/telling'
import { readLesson } from '@/core/lesson/upgrade'
import { applyEdit } from '@/core/lesson/edits'
import { seededRandom } from '@/core/random'
import { createLessonStore, type LessonStore } from '../lesson/lessonStore'
import { createAutosave, savesOfLeftLessons, type Autosave } from './autosave'
import type { Draft, Drafts } from './drafts'
import { openLesson } from './openLesson'
import { createTyping, type Typing } from './typing'

/**
 * Saving against a server, a network and a browser's storage that are slow, lose things and refuse, in every order: each
 * seed is another one. All time is the test's.
 */

const DECK = 'd'.repeat(64)
const STEPS = ['s0', 's1', 's2', 's3', 's4', 's5']

function firstLesson(): Lesson {
  const steps = STEPS.map((id, i) => newStep(id, `Slide ${i}`, newStill(DECK, i + 1)))
  return { ...emptyLesson('Knots'), steps }
}

/** What one server knows of one lesson, by the rules of `db/lessons.ts`. */
function server(lesson: Lesson) {
  const revisions = [JSON.stringify(documentOf(lesson))]
  const state = { revision: 1, save: null as string | null, refuses: false, isFull: false }
  const stored = (revision = state.revision) => readLesson(JSON.parse(revisions[revision - 1]!))
  /** Which save led to which revision. */
  const saves = new Map<string, number>()
  const opened = (asked: string[]) => ({
    lesson: documentOf(stored()),
    revision: state.revision,
    done: asked.map((save) => saves.get(save) ?? null).sort((a, b) => (b ?? 0) - (a ?? 0))[0] ?? null,
    savedAt: new Date(0).toISOString(),
    course: { id: 'c', title: 'C' },
    media: [],
  })
  function put({ base, save, lesson: document }: { base: number; save: string; lesson: unknown }): Response {
    if (state.refuses) return Response.json({ error: 'No.' }, { status: 400 })
    if (state.isFull) return Response.json({ error: 'The disk is full.' }, { status: 507 })
    if (base === state.revision) {
      revisions.push(JSON.stringify(document))
      Object.assign(state, { revision: base + 1, save })
      saves.set(save, base + 1)
    } else if (state.save !== save)
      return Response.json({ saved: false, revision: state.revision, savedAt: '' }, { status: 409 })
    return Response.json({ saved: true, revision: state.revision })
  }
  return {
    state,
    stored,
    /** Somebody else changes it. */
    change(by: (lesson: Lesson) => Lesson) {
      revisions.push(JSON.stringify(documentOf(by(stored()))))
      Object.assign(state, { revision: state.revision + 1, save: `other-${state.revision}` })
    },
    answer(path: string, body: string | undefined): Response {
      if (body !== undefined) return put(JSON.parse(body) as Parameters<typeof put>[0])
      const base = /revisions\/(\d+)$/.exec(path)?.[1]
      const asked = new URL(path, 'http://x').searchParams.get('saves')?.split(',') ?? []
      return Response.json(base === undefined ? opened(asked) : { lesson: documentOf(stored(Number(base))) })
    },
  }
}

const passing = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

/** A browser's storage: keeps its order, takes its time, and fails now and then. */
function storage(random: () => number, slow: number, rows = new Map<string, Draft>()): Drafts {
  let before: Promise<unknown> = Promise.resolve()
  const inOrder = (work: () => void) => {
    const own = before.then(async () => {
      await passing(random() < 0.2 ? slow : 5)
      if (random() < 0.1) throw new Error('The storage has failed.')
      work()
    })
    before = own.catch(() => {})
    return own
  }
  return {
    hold: () => () => {},
    keep: (draft) => inOrder(() => rows.set(draft.key, structuredClone(draft))),
    park: (draft) => Boolean(rows.set(draft.key, structuredClone(draft))),
    drop: (key) => inOrder(() => rows.delete(key)),
    find: async () => [...rows.values()].sort((a, b) => b.at - a.at)[0] ?? null,
  }
}

interface Opened {
  store: LessonStore
  autosave: Autosave
  typing: Typing
  close(): void
}

const own = { fetch: globalThis.fetch, window: Reflect.get(globalThis, 'window') as unknown }
beforeEach(() => {
  jest.useFakeTimers()
  // What a storage or a network has lost is told there.
  jest.spyOn(console, 'error').mockImplementation(() => {})
  Object.assign(globalThis, { window: { addEventListener: () => {}, removeEventListener: () => {} } })
})
afterEach(() => {
  jest.useRealTimers()
  jest.restoreAllMocks()
  Object.assign(globalThis, own)
})

async function open(drafts: Drafts): Promise<Opened> {
  const { lesson, saved } = await openLesson('x', drafts)
  const typing = createTyping()
  const store = createLessonStore(lesson, [], (sentence) => {
    throw new Error(sentence)
  })
  const autosave = createAutosave('x', { store, typing, onUnited: () => {}, drafts }, saved)
  return { store, autosave, typing, close: autosave.start() }
}

const retitle = (step: string, title: string) => ({ name: 'renameStep', step, title }) as const

test('a change while the draft of the save before is being deleted is saved by itself', async () => {
  const there = server(firstLesson())
  globalThis.fetch = async (path, options) => there.answer(String(path), options?.body as string | undefined)
  const never = storage(() => 0.15, 5000)
  const { store, autosave, close } = await opened(open(never))
  store.getState().edit(retitle('s0', 'one'))
  await jest.advanceTimersByTimeAsync(1700)
  store.getState().edit(retitle('s0', 'two'))
  await jest.advanceTimersByTimeAsync(3000)
  expect([autosave.state(), there.stored().steps[0]!.title]).toEqual([{ state: 'saved' }, 'two'])
  close()
  await jest.runAllTimersAsync()
})

test('changes that follow each other without a break are saved meanwhile', async () => {
  const there = server(firstLesson())
  globalThis.fetch = async (path, options) => there.answer(String(path), options?.body as string | undefined)
  const { store, close } = await opened(open(storage(() => 0.5, 5)))
  for (let i = 0; i < 50; i++) {
    store.getState().edit(retitle('s0', `title ${i}`))
    await jest.advanceTimersByTimeAsync(100)
  }
  expect(there.state.revision).toBeGreaterThan(1)
  close()
  await jest.runAllTimersAsync()
})

test('what is taken back before it was saved does not come back, where the page goes before the storage has dropped it', async () => {
  const there = server(firstLesson())
  globalThis.fetch = async (path, options) => there.answer(String(path), options?.body as string | undefined)
  const leaving: ((event: Event) => void)[] = []
  const addEventListener = (name: string, listener: (event: Event) => void) => {
    if (name === 'pagehide') leaving.push(listener)
  }
  Object.assign(globalThis, { window: { addEventListener, removeEventListener: () => {} } })
  const rows = new Map<string, Draft>()
  // What a page asks of it as it goes is done by nobody any more.
  const usual = storage(() => 0.5, 5, rows)
  const going: Drafts = { ...usual, drop: () => new Promise(() => {}) }
  const { store, autosave } = await opened(open(going))
  store.getState().edit(retitle('s0', 'taken back'))
  await jest.advanceTimersByTimeAsync(150)
  expect([rows.size, autosave.state()]).toEqual([1, { state: 'changed' }])
  store.getState().undo()
  for (const listener of leaving) listener({ type: 'pagehide' } as Event)
  jest.clearAllTimers()
  const again = await opened(open(usual))
  expect(again.store.getState().history.lesson.steps[0]!.title).toBe('Slide 0')
  await jest.advanceTimersByTimeAsync(5000)
  expect([there.stored().steps[0]!.title, again.autosave.state()]).toEqual(['Slide 0', { state: 'saved' }])
  again.close()
  await jest.runAllTimersAsync()
})

async function opened<T>(opening: Promise<T>): Promise<T> {
  let isOpening = true
  opening.finally(() => (isOpening = false)).catch(() => {})
  while (isOpening) await jest.advanceTimersByTimeAsync(500)
  return opening
}

test.each(Array.from({ length: 24 }, (_, seed) => seed))(
  'whatever happens in whatever order, what was changed is saved once it can be (seed %i)',
  async (seed) => {
    const random = seededRandom(seed + 1)
    const chance = (share: number) => random() < share
    const there = server(firstLesson())
    let isCalm = false
    const slow = chance(0.5) ? 1500 : 30
    /** Requests that are on their way to the server, and when they arrive (ms). */
    const underWay = new Map<() => Response, number>()
    /** Requests arrive or are lost on the way there, answers arrive or are lost on the way back; slowly, now and then. */
    globalThis.fetch = async (path, options) => {
      const [lostThere, lostBack] = isCalm ? [false, false] : [chance(0.15), chance(0.15)]
      const way = !isCalm && chance(0.2) ? 40 * slow * random() : 60 * random()
      const arrive = () => there.answer(String(path), options?.body as string | undefined)
      if (!lostThere) underWay.set(arrive, Date.now() + way)
      await passing(way)
      underWay.delete(arrive)
      if (lostThere) throw new TypeError('lost')
      const answer = arrive()
      await passing(60 * random())
      if (lostBack) throw new TypeError('lost')
      return answer
    }
    const rows = new Map<string, Draft>()

    /** What each side wrote last into each of its own steps: the author into the first three, somebody else into the others. */
    const wanted = new Map(STEPS.map((step, i) => [step, `Slide ${i}`]))
    let serial = 0
    let page: Opened | null = null
    async function visit(): Promise<void> {
      for (page = null; !page;) {
        page = await opened(open(storage(random, slow, rows))).catch((error: Error) => {
          if (!error.message.includes('does not answer')) throw error
          return null
        })
      }
    }
    /** The page is gone in this moment, with all that it had begun; but what it has sent still arrives. */
    async function crash(): Promise<void> {
      await jest.advanceTimersByTimeAsync(20_000)
      jest.clearAllTimers()
      for (const [arrive, at] of underWay) setTimeout(arrive, at - Date.now())
      underWay.clear()
      await visit()
    }
    const deeds = [
      () => {
        const step = STEPS[Math.floor(3 * random())]!
        wanted.set(step, `mine ${++serial}`)
        page!.store.getState().edit(retitle(step, wanted.get(step)!))
      },
      () => {
        // Typed, and in the lesson a moment later, or as soon as something is left.
        const field = {}
        const step = STEPS[Math.floor(3 * random())]!
        const { store, typing } = page!
        const title = `typed ${++serial}`
        wanted.set(step, title)
        typing.begin(field, () => {
          typing.end(field)
          store.getState().edit(retitle(step, title))
        })
        typing.commit(field)
      },
      () => {
        const step = STEPS[3 + Math.floor(3 * random())]!
        if (!chance(0.3)) return
        wanted.set(step, `theirs ${++serial}`)
        there.change((lesson) => applyEdit(lesson, retitle(step, wanted.get(step)!)))
      },
      () => {
        there.state.refuses = chance(0.3)
      },
      () => {
        there.state.isFull = chance(0.3)
      },
    ]
    await visit()
    for (let i = 0; i < 40; i++) {
      deeds[Math.floor(deeds.length * random())]!()
      await jest.advanceTimersByTimeAsync(random() * (chance(0.3) ? 3000 : 200))
      if (chance(0.04)) await crash()
    }
    isCalm = true
    Object.assign(there.state, { refuses: false, isFull: false })
    // What was refused is looked at again when something changes.
    wanted.set('s0', 'last')
    page!.store.getState().edit(retitle('s0', 'last'))
    await jest.advanceTimersByTimeAsync(240_000)
    expect(page!.autosave.state().state).toBe('saved')
    const titles = (lesson: Lesson) => Object.fromEntries(lesson.steps.map(({ id, title }) => [id, title]))
    expect(titles(there.stored())).toEqual(Object.fromEntries(wanted))
    expect(titles(page!.store.getState().history.lesson)).toEqual(Object.fromEntries(wanted))
    page!.close()
    await jest.runAllTimersAsync()
    await savesOfLeftLessons()
  },
)

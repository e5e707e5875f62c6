import type { Report } from './report'
import { NEVER_HERE, readVisit, written } from './visit'

/** cmi5 (AICC, with xAPI 1.0.3): statements that are sent to the address with which the course site opened the page. */

const VERB = 'http://adlnet.gov/expapi/verbs/'
const CATEGORY = 'https://w3id.org/xapi/cmi5/context/categories/'

/** What is kept in the state of a registration. */
const KEPT = 'visit'
const MOST = 100_000

/** What the course site says of this launch; in another mode than the normal one nothing is to be told but beginning and end. */
interface Launch {
  contextTemplate?: Context
  launchMode?: 'Normal' | 'Browse' | 'Review'
  returnURL?: string
}

interface Kept {
  visit: string
  isComplete: boolean
}

interface Context {
  contextActivities?: Record<string, unknown>
  extensions?: Record<string, unknown>
}

/** Null where no course site has opened the page. */
export function cmi5Report(query: URLSearchParams): Report | null {
  const [endpoint, fetchAt, actor, registration, activityId] = [
    'endpoint',
    'fetch',
    'actor',
    'registration',
    'activityId',
  ].map((name) => query.get(name))
  if (!endpoint || !fetchAt || !actor || !registration || !activityId) return null
  const base = endpoint.endsWith('/') ? endpoint : `${endpoint}/`
  const begun = Date.now()
  let token = ''
  let context: Context = {}
  let isNormal = true
  let kept: Kept = { visit: '', isComplete: false }
  let lessonLength = 0
  let isOver = false

  const send = (path: string, init: RequestInit = {}) =>
    fetch(base + path, {
      ...init,
      // What is sent when the page goes away still arrives.
      keepalive: init.method !== undefined,
      headers: {
        Authorization: `Basic ${token}`,
        'X-Experience-API-Version': '1.0.3',
        ...(init.body ? { 'Content-Type': 'application/json' } : {}),
      },
    })
  const state = (id: string) =>
    `activities/state?${new URLSearchParams({ activityId, agent: actor, registration, stateId: id })}`
  const profile = (id: string) => `agents/profile?${new URLSearchParams({ agent: actor, profileId: id })}`
  /** Null where there is none. */
  const read = async <T>(path: string): Promise<T | null> => {
    const answer = await send(path)
    return answer.ok ? ((await answer.json()) as T) : null
  }
  const keep = (change: Partial<Kept>) => {
    kept = { ...kept, ...change }
    if (isNormal) void send(state(KEPT), { method: 'PUT', body: JSON.stringify(kept) })
  }
  const say = (verb: string, more: { result?: object; categories?: string[] } = {}) =>
    send('statements', {
      method: 'POST',
      body: JSON.stringify({
        id: crypto.randomUUID(),
        timestamp: new Date().toISOString(),
        actor: JSON.parse(actor) as unknown,
        verb: { id: VERB + verb },
        object: { objectType: 'Activity', id: activityId },
        ...(more.result ? { result: more.result } : {}),
        context: {
          ...context,
          registration,
          contextActivities: {
            ...context.contextActivities,
            category: ['cmi5', ...(more.categories ?? [])].map((name) => ({ id: CATEGORY + name })),
          },
        },
      }),
    })
  const duration = () => `PT${((Date.now() - begun) / 1000).toFixed(2)}S`

  return {
    async begin(length) {
      lessonLength = length
      const answer = (await (await fetch(fetchAt, { method: 'POST' })).json()) as Record<string, string>
      token = answer['auth-token'] ?? ''
      // It is given once a launch: a page that is loaded anew has none, and its visit was over when it went.
      if (!token) {
        isNormal = false
        isOver = true
        return { ...NEVER_HERE, isComplete: false, share: 0, isUncounted: true }
      }
      const launch = await read<Launch>(state('LMS.LaunchData'))
      context = launch?.contextTemplate ?? {}
      isNormal = (launch?.launchMode ?? 'Normal') === 'Normal'
      // The standard asks for them before anything is said, whatever they are used for.
      const preferences = await read<{ audioPreference?: string }>(profile('cmi5LearnerPreferences'))
      await say('initialized')
      const before = await read<Kept>(state(KEPT))
      if (before) kept = before
      // Who looks at it again is not taken to where they were.
      const visit = isNormal ? readVisit(kept.visit, length) : NEVER_HERE
      return {
        ...visit,
        isComplete: kept.isComplete,
        share: 0,
        isSilent: preferences?.audioPreference === 'off',
        ...(launch?.returnURL ? { returnTo: launch.returnURL } : {}),
      }
    },
    tell(visit) {
      keep({ visit: written(visit, lessonLength, MOST) })
    },
    complete() {
      // Once in a registration, and only where it counts.
      if (!isNormal || isOver || kept.isComplete) return
      keep({ isComplete: true })
      void say('completed', { result: { completion: true, duration: duration() }, categories: ['moveon'] })
    },
    end() {
      if (isOver) return
      isOver = true
      void say('terminated', { result: { duration: duration() } })
    },
  }
}

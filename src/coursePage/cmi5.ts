import type { Report } from './report'

/** cmi5 (AICC, with xAPI 1.0.3): statements that are sent to the address with which the course site opened the page. */

const VERB = 'http://adlnet.gov/expapi/verbs/'
const CATEGORY = 'https://w3id.org/xapi/cmi5/context/categories/'

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
  let isComplete = false
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
    async begin() {
      const answer = (await (await fetch(fetchAt, { method: 'POST' })).json()) as Record<string, string>
      token = answer['auth-token'] ?? ''
      const launch = await send(state('LMS.LaunchData'))
      if (launch.ok) context = ((await launch.json()) as { contextTemplate?: Context }).contextTemplate ?? {}
      await say('initialized')
      const kept = await send(state('place'))
      return kept.ok ? (((await kept.json()) as { seconds?: number }).seconds ?? null) : null
    },
    place(seconds) {
      void send(state('place'), { method: 'PUT', body: JSON.stringify({ seconds }) })
    },
    complete() {
      if (isComplete) return
      isComplete = true
      void say('completed', { result: { completion: true, duration: duration() }, categories: ['moveon'] })
    },
    end() {
      if (isOver) return
      isOver = true
      void say('terminated', { result: { duration: duration() } })
    },
  }
}

import { once } from 'node:events'
import { createServer, request, type IncomingHttpHeaders } from 'node:http'
import type { AddressInfo } from 'node:net'
import { DEFAULT_WISH } from '@/core/compose/wish'
import { startServer, waitForServer } from '../scripts/application.mjs'
import { startApplication, until, type Application } from './support/application'

/** Requests of strangers, odd ones, and too many or too large ones. */

let application: Application

beforeAll(async () => {
  application = await startApplication()
})
afterAll(async () => {
  await application?.stop()
})

describe('strangers and odd requests', () => {
  const ask = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
    new Promise<{ status: number; headers: IncomingHttpHeaders; text: string }>((resolve, reject) => {
      const { port } = new URL(application.url)
      const sent = request({ port, path, method, headers }, (response) => {
        let text = ''
        response.setEncoding('utf8').on('data', (part: string) => (text += part))
        response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, text }))
      })
      sent.on('error', reject).end()
    })

  test('health says what there is: database, store, queue and workers', async () => {
    const health = async () => (await (await fetch(`${application.url}/api/health`)).json()) as { ok: boolean }
    await until(async () => (await health()).ok)
    expect(await health()).toEqual({
      ok: true,
      database: { ok: true },
      store: { ok: true, kind: 'folder', freeBytes: expect.any(Number) },
      queue: { ok: true, waiting: expect.any(Number), working: expect.any(Number) },
      workers: { ok: true, count: 1 },
    })
  })

  test('under a name that is not ours nothing is answered, pages and pictures included', async () => {
    for (const path of ['/', '/lessons/tide-table', '/api/courses', '/api/health', '/icon.svg']) {
      for (const method of ['GET', 'HEAD', 'PUT']) {
        const { status, text } = await ask(path, { host: 'rebound.example' }, method)
        expect(status).toBe(403)
        if (method === 'GET') expect(text).toMatch(/not asked for as "rebound\.example".*YARN_STEP_HOSTS/)
      }
    }
    expect((await ask('/api/courses', { 'sec-fetch-site': 'cross-site' })).status).toBe(403)
    expect((await ask('/api/courses', { origin: 'null' })).status).toBe(403)
  })

  test('every answer says how it is to be taken; nothing tells what runs here', async () => {
    for (const path of ['/', '/nothing/here', '/api/courses', '/api/nothing']) {
      const { headers, text } = await ask(path)
      expect(headers['content-security-policy']).toMatch(/frame-ancestors 'none'/)
      expect(headers['x-content-type-options']).toBe('nosniff')
      expect(headers['referrer-policy']).toBe('same-origin')
      expect(headers['permissions-policy']).toMatch(/geolocation=\(\)/)
      expect(headers['x-powered-by']).toBeUndefined()
      const nonce = /'nonce-([^']+)'/.exec(headers['content-security-policy'] as string)![1]!
      // Data is not run.
      const scripts = text.matchAll(/<script(?![^>]*type="application\/json")[^>]*>/g)
      for (const [script] of scripts) expect(script).toContain(`nonce="${nonce}"`)
    }
  })

  test.each([
    '/api/lessons/nothing',
    '/api/lessons/%00',
    '/api/lessons/a%00b/revisions',
    '/api/lessons/tide-table/revisions/x',
    '/api/lessons/tide-table/revisions/99999999999',
    '/api/lessons/tide-table/revisions/-1',
    '/api/lessons/nothing/exports',
    '/api/lessons/nothing/archive',
    '/api/lessons/nothing/revisions',
    '/api/courses/nothing/balance',
    '/api/jobs/nothing/file',
    '/api/jobs?id=%00',
    '/api/jobs?exports=%00',
    '/api/arrivals?lesson=%00',
    '/api/media/x/page-1.png',
    `/api/media/${'a'.repeat(64)}/take?from=0&to=1&format=wav`,
    `/api/media/${'a'.repeat(64)}/take?from=x`,
    '/api/pieces/score?wish=%7B%7D',
    '/api/pieces/preview?wish=x',
    '/lessons/nothing',
    '/lessons/%00',
    '/courses/nothing',
  ])('%s is told to be wrong or not there, and nothing of ours is shown', async (path) => {
    const { status, text } = await ask(path)
    expect(status).toBeGreaterThanOrEqual(path.includes('?id=') || path.includes('?lesson=') ? 200 : 400)
    expect(status).toBeLessThan(500)
    // What the page says of itself is no secret.
    const told = text.replace(/<script id="words"[^]*?<\/script>/, '')
    expect(told).not.toMatch(/select .* from|at .*\.mjs:\d|postgresql:|\/work\//i)
  })

  test('what was uploaded is never handed out', async () => {
    expect((await ask('/api/uploads/anything')).status).toBe(405)
  })

  test.each([
    ['POST', '/api/lessons', { course: 'nothing', title: 'x', pictures: [], voices: [], music: [] }],
    ['POST', '/api/lessons', { course: null, title: 'x', pictures: ['a'.repeat(64)], voices: [], music: [] }],
    ['POST', '/api/recordings', { id: 'recording-1', lesson: 'nothing', kind: 'voice', details: {} }],
    ['POST', '/api/jobs', { kind: 'roles', sounds: ['../../x'] }],
    ['POST', '/api/jobs', { kind: 'balance', lesson: '\0', revision: 1 }],
    ['PUT', '/api/lessons/tide-table', { base: 1, save: 'x', lesson: {} }],
    ['PUT', '/api/lessons/tide-table', { base: 1e12, save: 'save-1234', lesson: {} }],
    ['PATCH', '/api/courses/nothing', { title: 'x' }],
    ['DELETE', '/api/lessons/nothing', null],
    ['DELETE', '/api/jobs/nothing', null],
  ])('%s %s with %j is refused with a sentence', async (method, path, body) => {
    const answer = await fetch(application.url + path, { method, ...(body && { body: JSON.stringify(body) }) })
    expect(answer.status).toBeGreaterThanOrEqual(400)
    expect(answer.status).toBeLessThan(500)
    expect(((await answer.json()) as { error: string }).error).toMatch(/[.]$/)
  })

  test('more than a request may hold is not read', async () => {
    const body = JSON.stringify({ title: 'x'.repeat(6_000_000) })
    const answer = await fetch(`${application.url}/api/courses`, {
      method: 'POST',
      body,
      headers: { connection: 'close' },
    })
    expect(answer.status).toBe(413)
  })

  test('many previews at once leave the server able to answer: the newest are heard', async () => {
    const wish = JSON.stringify({ ...DEFAULT_WISH, length: 60, sections: [{ kind: 'body', start: 0 }] })
    const previews = Array.from({ length: 20 }, (_, i) =>
      fetch(
        `${application.url}/api/pieces/preview?wish=${encodeURIComponent(wish.replace(/"seed":\d+/, `"seed":${i}`))}`,
      ),
    )
    const asked = performance.now()
    expect((await fetch(`${application.url}/api/health`)).status).toBe(200)
    expect(performance.now() - asked).toBeLessThan(10_000)
    const statuses = (await Promise.all(previews)).map(({ status }) => status)
    expect(statuses.filter((status) => status === 200).length).toBeGreaterThanOrEqual(1)
    expect(statuses.filter((status) => status !== 200 && status !== 400)).toEqual([])
  })

  test('another program that answers at our port is not taken for ours: the server ends with a sentence', async () => {
    const other = createServer((_, response) => response.end('{"ok":true}')).listen(0, '127.0.0.1')
    await once(other, 'listening')
    const { port } = other.address() as AddressInfo
    const server = startServer({ ...application.settings, PORT: String(port) })
    try {
      await expect(waitForServer(server, port)).rejects.toThrow(`Port ${port} is taken by another program.`)
      // By this code the demo knows that it need not try again.
      expect(await server.ended).toBe(78)
    } finally {
      await server.kill()
      other.close()
    }
  })
})

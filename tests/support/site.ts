import { createServer, type IncomingMessage } from 'node:http'
import { readFile } from 'node:fs/promises'
import { basename, extname, join } from 'node:path'
import type { AddressInfo } from 'node:net'
import { openZip, bytesOf, entriesOf } from '@/media/zip'
import { mkdir, writeFile } from 'node:fs/promises'

/** A small stand-in of a course site: it opens a package and writes down what the package reports. */

export async function unpack(zip: string, folder: string): Promise<string[]> {
  await mkdir(folder, { recursive: true })
  const opened = await openZip(zip)
  const entries = await entriesOf(opened, 100, (why) => new Error(why))
  for (const [name, entry] of entries) await writeFile(join(folder, basename(name)), await bytesOf(opened, entry))
  opened.close()
  return [...entries.keys()]
}

export interface Site {
  url: string
  /** xAPI statements, as they were sent. */
  statements: Statement[]
  /** What the package keeps for its next visit by xAPI. */
  states: Map<string, string>
  /** What SCORM's run-time holds, for all visits, and all that was ever set, in order. */
  data: Map<string, string | number>
  wasSet: { name: string; value: string | number }[]
  /** What the course site tells a package by cmi5: its mode, and what is known of its learner. */
  launchAs(mode: 'Normal' | 'Browse' | 'Review'): void
  profiles: Map<string, string>
  close(): void
}

export interface Statement {
  verb: { id: string }
  result?: { completion?: boolean }
  context: { registration: string; contextActivities: { category: { id: string }[] } }
}

interface SetValue {
  name: string
  value: string | number
  serial: number
}

interface Answer {
  status?: number
  type?: string
  range?: string
  body: string | Buffer
}

const TYPES: Record<string, string> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.mp4': 'video/mp4',
}

/**
 * SCORM's run-time as the standard describes it: one object in the window around the package, all of it text. The site keeps what is
 * set; what arrives late does not go before what was set after it.
 */
const around = (data: ReadonlyMap<string, string | number>) => `<!doctype html><title>Course site</title><script>
  window.data = ${JSON.stringify(Object.fromEntries(data))}
  let serial = Date.now() * 1000
  const keep = (name) => void fetch('/data', { method: 'PUT', keepalive: true, body: JSON.stringify({ name, value: window.data[name], serial: serial++ }) })
  const get = (name) => String(window.data[name] ?? '')
  const set = (name, value) => { if (typeof value !== 'string') throw new Error(name); window.data[name] = value; keep(name); return 'true' }
  const count = (name) => { window.data[name] = (window.data[name] ?? 0) + 1; keep(name); return 'true' }
  window.API = { LMSInitialize: () => count('begun'), LMSFinish: () => count('ended'), LMSGetValue: get, LMSSetValue: set, LMSCommit: () => 'true' }
  window.API_1484_11 = { Initialize: () => count('begun'), Terminate: () => count('ended'), GetValue: get, SetValue: set, Commit: () => 'true' }
</script><iframe src="/package/index.html" width="1000" height="700" allow="autoplay"></iframe>`

export async function courseSite(folder: string): Promise<Site> {
  const statements: Statement[] = []
  const states = new Map<string, string>()
  const data = new Map<string, string | number>()
  const wasSet: Site['wasSet'] = []
  const serials = new Map<string, number>()
  const profiles = new Map<string, string>()
  const launches = new Set<string>()
  let url = ''
  const launchAs = (mode: string) =>
    states.set(
      'LMS.LaunchData',
      JSON.stringify({
        contextTemplate: { extensions: { 'urn:session': 'one' } },
        launchMode: mode,
        returnURL: `${url}/course`,
      }),
    )
  const server = createServer((request, response) => {
    void answer(request).then(
      ({ status = 200, type = 'application/json', range, body }) =>
        response
          .writeHead(status, {
            'content-type': type,
            'accept-ranges': 'bytes',
            ...(range && { 'content-range': range }),
          })
          .end(body),
      (error: Error) => response.writeHead(500).end(error.message),
    )
  })
  async function answer(request: IncomingMessage): Promise<Answer> {
    const { pathname, searchParams } = new URL(request.url!, 'http://site')
    if (pathname === '/') return { type: 'text/html', body: around(data) }
    if (pathname === '/course') return { type: 'text/html', body: '<!doctype html><title>All lessons</title>' }
    if (pathname === '/data') {
      const { name, value, serial } = JSON.parse(await textOf(request)) as SetValue
      wasSet.push({ name, value })
      if (serial > (serials.get(name) ?? 0)) {
        serials.set(name, serial)
        data.set(name, value)
      }
      return { body: '' }
    }
    if (pathname === '/token') {
      // Each launch has an address of its own, which gives its token once.
      const isFirst = !launches.has(request.url!)
      launches.add(request.url!)
      return { body: JSON.stringify(isFirst ? { 'auth-token': 'dG9rZW4=' } : { 'error-code': '1' }) }
    }
    if (pathname.startsWith('/xapi/')) {
      if (request.headers.authorization !== 'Basic dG9rZW4=') return { status: 401, body: '' }
      if (pathname === '/xapi/statements') statements.push(JSON.parse(await textOf(request)) as Statement)
      const id = searchParams.get('stateId') ?? ''
      if (pathname === '/xapi/activities/state' && request.method === 'PUT') states.set(id, await textOf(request))
      if (pathname === '/xapi/agents/profile') {
        const body = profiles.get(searchParams.get('profileId') ?? '')
        return body ? { body } : { status: 404, body: '' }
      }
      if (request.method !== 'GET') return { body: '[]' }
      return states.has(id) ? { body: states.get(id)! } : { status: 404, body: '' }
    }
    const file = join(folder, basename(pathname))
    const type = TYPES[extname(file)] ?? 'application/octet-stream'
    const bytes = await readFile(file)
    const [, first, last] = /^bytes=(\d+)-(\d*)$/.exec(request.headers.range ?? '') ?? []
    if (first === undefined) return { type, body: bytes }
    const [from, to] = [Number(first), last ? Number(last) : bytes.length - 1]
    return { status: 206, type, range: `bytes ${from}-${to}/${bytes.length}`, body: bytes.subarray(from, to + 1) }
  }
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  const { port } = server.address() as AddressInfo
  url = `http://127.0.0.1:${port}`
  launchAs('Normal')
  const close = () => {
    server.close()
    // A browser keeps its connections for a while.
    server.closeAllConnections()
  }
  return { url, statements, states, data, wasSet, launchAs, profiles, close }
}

async function textOf(request: IncomingMessage): Promise<string> {
  let text = ''
  for await (const chunk of request) text += String(chunk)
  return text
}

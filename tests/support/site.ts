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
  /** What the package keeps for its next visit. */
  states: Map<string, string>
  close(): void
}

export interface Statement {
  verb: { id: string }
  result?: { completion?: boolean }
  context: { registration: string; contextActivities: { category: { id: string }[] } }
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

/** SCORM's run-time as the standard describes it: one object in the window around the package, all of it text. */
const AROUND = `<!doctype html><title>Course site</title><script>
  window.data = JSON.parse(sessionStorage.getItem('data') ?? '{}')
  const keep = () => sessionStorage.setItem('data', JSON.stringify(window.data))
  const get = (name) => window.data[name] ?? ''
  const set = (name, value) => { if (typeof value !== 'string') throw new Error(name); window.data[name] = value; keep(); return 'true' }
  const count = (name) => { window.data[name] = (window.data[name] ?? 0) + 1; keep(); return 'true' }
  window.API = { LMSInitialize: () => count('begun'), LMSFinish: () => count('ended'), LMSGetValue: get, LMSSetValue: set, LMSCommit: () => 'true' }
  window.API_1484_11 = { Initialize: () => count('begun'), Terminate: () => count('ended'), GetValue: get, SetValue: set, Commit: () => 'true' }
</script><iframe src="/package/index.html" width="1000" height="700" allow="autoplay"></iframe>`

export async function courseSite(folder: string): Promise<Site> {
  const statements: Statement[] = []
  const states = new Map<string, string>([
    [
      'LMS.LaunchData',
      JSON.stringify({ contextTemplate: { extensions: { 'urn:session': 'one' } }, launchMode: 'Normal' }),
    ],
  ])
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
    if (pathname === '/') return { type: 'text/html', body: AROUND }
    if (pathname === '/token') return { body: JSON.stringify({ 'auth-token': 'dG9rZW4=' }) }
    if (pathname.startsWith('/xapi/')) {
      if (request.headers.authorization !== 'Basic dG9rZW4=') return { status: 401, body: '' }
      if (pathname === '/xapi/statements') statements.push(JSON.parse(await textOf(request)) as Statement)
      const id = searchParams.get('stateId') ?? ''
      if (pathname === '/xapi/activities/state' && request.method === 'PUT') states.set(id, await textOf(request))
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
  return { url: `http://127.0.0.1:${port}`, statements, states, close: () => void server.close() }
}

async function textOf(request: IncomingMessage): Promise<string> {
  let text = ''
  for await (const chunk of request) text += String(chunk)
  return text
}

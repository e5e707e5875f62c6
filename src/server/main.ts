import { randomBytes } from 'node:crypto'
import { createServer } from 'node:http'
import { join } from 'node:path'
import next from 'next'
import sirv from 'sirv'
import { endWithParent } from '@/jobs/parent'
import { projectFolder } from '@/media/settings'
import { languageOf } from '@/messages/languages'
import { speaking } from '@/messages/onServer'
import { NONCE_HEADER, safetyHeaders } from './headers'
import { allowedHosts, assertLoopback, refusal } from './strangers'

/** The web server: looks at every request before the application sees it, and answers nobody it should not. */

/** By this exit code whoever starts the server knows that starting it again would not help (EX_CONFIG of sysexits.h). */
const WRONG_SETTING = 78

process.umask(0o077)
endWithParent()
const hostname = process.env.HOST || '127.0.0.1'
const port = Number(process.env.PORT || 4310)
try {
  assertLoopback(hostname)
} catch (error) {
  console.error((error as Error).message)
  process.exit(WRONG_SETTING)
}

const application = next({ dev: false, dir: projectFolder(), hostname, port })
await application.prepare()
const handle = application.getRequestHandler()
const hosts = allowedHosts(port)
/** What Next has built, as it was compressed beforehand; it is named by its content, so it never changes. */
const STATIC = '/_next/static'
const built = sirv(join(projectFolder(), '.next', 'static'), { brotli: true, immutable: true, maxAge: 365 * 24 * 3600 })

const server = createServer((request, response) => {
  const nonce = randomBytes(16).toString('base64')
  for (const [name, value] of Object.entries(safetyHeaders(nonce))) response.setHeader(name, value)
  const sentence = refusal(request, hosts)
  if (sentence !== null) {
    response.writeHead(403, { 'content-type': 'text/plain; charset=utf-8' }).end(sentence)
    return
  }
  // The application reads from here which nonce its scripts are to carry.
  request.headers['content-security-policy'] = response.getHeader('content-security-policy') as string
  request.headers[NONCE_HEADER] = nonce
  const language = languageOf(request.headers.cookie ?? '', request.headers['accept-language'] ?? '')
  if (!request.url?.startsWith(`${STATIC}/`)) return void speaking(language, () => handle(request, response))
  const { url } = request
  request.url = url.slice(STATIC.length)
  built(request, response, () => {
    request.url = url
    void handle(request, response)
  })
})
// Uploads and downloads take as long as they take; headers do not.
server.requestTimeout = 0
server.headersTimeout = 30_000
// Whoever asks again within 5 s, Node's own time, would meet a connection that is just being closed on a busy machine.
server.keepAliveTimeout = 25_000
server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EADDRINUSE') throw error
  console.error(`Port ${port} is taken by another program. Choose another one: PORT=${port + 1}.`)
  process.exit(WRONG_SETTING)
})
// Whoever starts it waits for this line.
server.listen(port, hostname, () => console.log(`The server listens on port ${port}.`))

for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(0))
process.on('unhandledRejection', (error) => console.error(error))

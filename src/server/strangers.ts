import type { IncomingHttpHeaders } from 'node:http'

/**
 * Who may ask this server for something. A browser on this machine shows pages of other sites too, and those can make it
 * send requests here: under another name that leads here (DNS rebinding), or from another origin.
 */

/** Names under which the application may be asked for: `localhost:4310`. Of a proxy its own, see YARN_STEP_HOSTS. */
export function allowedHosts(port: number, setting = process.env.YARN_STEP_HOSTS): Set<string> {
  const own = ['127.0.0.1', 'localhost', '[::1]'].map((name) => `${name}:${port}`)
  const more = (setting ?? '').split(',').map((host) => host.trim().toLowerCase())
  return new Set([...own, ...more.filter(Boolean)])
}

interface Asked {
  method?: string
  url?: string
  headers: IncomingHttpHeaders
}

/** Why a request is refused, in a sentence; null where it may pass. */
export function refusal({ method = 'GET', url = '/', headers }: Asked, hosts: ReadonlySet<string>): string | null {
  const host = (headers.host ?? '').toLowerCase()
  if (!hosts.has(host))
    return `This server is not asked for as "${host}". Whoever runs it behind a proxy adds that name to the setting YARN_STEP_HOSTS.`
  if (!isWellFormed(url)) return 'This address can not be read: a sign in it is written wrongly.'
  const { origin } = headers
  if (origin !== undefined && !hosts.has(hostOf(origin)))
    return 'This request comes from another site and was refused. Whoever runs a proxy adds its name to the setting YARN_STEP_HOSTS.'
  const site = headers['sec-fetch-site'] ?? 'none'
  if (site === 'same-origin' || site === 'none') return null
  // A link on another page may lead to a page of ours, in a window of its own.
  const isLink = headers['sec-fetch-mode'] === 'navigate' && headers['sec-fetch-dest'] === 'document'
  if (isLink && method === 'GET' && !url.startsWith('/api/')) return null
  return 'This request comes from another site and was refused.'
}

function isWellFormed(url: string): boolean {
  try {
    decodeURI(url)
    return true
  } catch {
    return false
  }
}

function hostOf(origin: string): string {
  try {
    return new URL(origin).host
  } catch {
    return ''
  }
}

const LOOPBACK = /^(?:localhost|127(?:\.\d{1,3}){3}|\[?::1\]?)$/

/** Throws where the server would be reachable from other machines: nobody has to say who they are yet. */
export function assertLoopback(host: string): void {
  if (!LOOPBACK.test(host))
    throw new Error(
      `HOST is "${host}": this program does not know accounts yet, so everybody who reaches it could change everything. Leave HOST away, or set it to 127.0.0.1.`,
    )
}

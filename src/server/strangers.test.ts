import { allowedHosts, assertLoopback, refusal } from './strangers'

const hosts = allowedHosts(4310, 'lessons.skerrow.example, Harbour.example:8443')
const ask = (headers: Record<string, string>, method = 'GET', url = '/api/courses') =>
  refusal({ method, url, headers: { host: 'localhost:4310', ...headers } }, hosts)

test.each([
  ['typed into the address line', {}],
  ['of our own page', { origin: 'http://localhost:4310', 'sec-fetch-site': 'same-origin' }],
  ['by the other name of this machine', { host: '127.0.0.1:4310' }],
  ['behind a proxy that is known', { host: 'lessons.skerrow.example', origin: 'https://lessons.skerrow.example' }],
  ['behind a proxy that rewrites the name', { origin: 'https://harbour.example:8443' }],
])('a request %s passes', (_, headers) => {
  for (const method of ['GET', 'PUT', 'DELETE']) expect(ask(headers, method)).toBeNull()
})

test.each([
  ['a name that leads here', { host: 'evil.example:4310' }],
  ['a name without a port', { host: 'localhost' }],
  ['no name', { host: '' }],
  ['a page of another site', { origin: 'http://evil.example' }],
  ['a page without an origin', { origin: 'null' }],
  ['another program on this machine', { origin: 'http://localhost:9999' }],
  ['an image on another page', { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors' }],
  ['a page of another port', { 'sec-fetch-site': 'same-site' }],
])('a request from %s is refused, whatever it wants', (_, headers) => {
  for (const method of ['GET', 'HEAD', 'POST', 'OPTIONS']) {
    expect(ask(headers, method)).toMatch(/[.]$/)
    expect(ask(headers, method, '/')).not.toBeNull()
  }
})

test('a link from elsewhere leads to our pages, but not into a frame, nor to data', () => {
  const link = { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' }
  expect(ask(link, 'GET', '/lessons/x')).toBeNull()
  expect(ask({ ...link, 'sec-fetch-dest': 'iframe' }, 'GET', '/lessons/x')).not.toBeNull()
  expect(ask(link, 'GET', '/api/lessons/x/archive')).not.toBeNull()
  expect(ask(link, 'POST', '/')).not.toBeNull()
})

test('only this machine can reach the server', () => {
  for (const host of ['127.0.0.1', 'localhost', '::1', '127.8.8.8']) expect(() => assertLoopback(host)).not.toThrow()
  for (const host of ['0.0.0.0', '::', '192.168.1.4', 'example.org', '127.0.0.1.example'])
    expect(() => assertLoopback(host)).toThrow('accounts')
})

import type { Page, Protocol } from 'puppeteer-core'

/** What becomes of a request: it goes on, fails as where the connection is lost, or is answered here. */
type Fate = 'goes on' | 'is lost' | { status?: number; type: string; body: string }

/**
 * Requests to addresses that match (`*` stands for anything) meet what `fateOf` says, when it says so, until what this
 * returns is called. All others are left alone: were each of them stopped and let go, some of the workers' would never go on.
 */
export async function onRequests(
  page: Page,
  pattern: string,
  fateOf: (request: Protocol.Network.Request) => Fate | Promise<Fate>,
): Promise<() => Promise<void>> {
  const session = await page.createCDPSession()
  const meet = (requestId: string, fate: Fate): Promise<void> => {
    if (fate === 'goes on') return session.send('Fetch.continueRequest', { requestId })
    if (fate === 'is lost') return session.send('Fetch.failRequest', { requestId, errorReason: 'InternetDisconnected' })
    const { status = 200, type, body } = fate
    const responseHeaders = [{ name: 'content-type', value: type }]
    const encoded = Buffer.from(body).toString('base64')
    return session.send('Fetch.fulfillRequest', { requestId, responseCode: status, responseHeaders, body: encoded })
  }
  session.on('Fetch.requestPaused', ({ requestId, request }) => {
    // A page that is gone waits for nothing.
    void Promise.resolve(fateOf(request)).then((fate) => meet(requestId, fate).catch(() => {}))
  })
  await session.send('Fetch.enable', { patterns: [{ urlPattern: pattern }] })
  return () => session.detach()
}

/** Answers of addresses that match are held back, until what this returns is called. */
export async function holdBack(page: Page, pattern: string): Promise<() => Promise<void>> {
  let letGo = () => {}
  const released = new Promise<void>((resolve) => (letGo = resolve))
  const end = await onRequests(page, pattern, () => released.then(() => 'goes on' as const))
  return async () => {
    letGo()
    await end()
  }
}

import { call, Refusal } from './api'

const asFetch = (answer: () => Response) => {
  globalThis.fetch = async () => answer()
}
const own = globalThis.fetch
afterEach(() => {
  globalThis.fetch = own
})

test('an answer that breaks off in the middle is no answer: it says nothing about what was done', async () => {
  asFetch(
    () =>
      new Response(
        new ReadableStream({
          start(body) {
            body.enqueue(new TextEncoder().encode('{"saved": tr'))
            body.error(new Error('terminated'))
          },
        }),
      ),
  )
  await expect(call('/api/lessons/x')).rejects.toThrow('The server does not answer')
})

test('a refusal keeps its sentence, and a page of a proxy instead of an answer is no refusal', async () => {
  asFetch(() => Response.json({ error: 'This is too long.' }, { status: 400 }))
  await expect(call('/api/lessons/x')).rejects.toThrow(new Refusal('This is too long.'))
  asFetch(() => new Response('<html>Bad gateway</html>', { status: 502 }))
  await expect(call('/api/lessons/x')).rejects.not.toBeInstanceOf(Refusal)
  asFetch(() => new Response(null, { status: 204 }))
  expect(await call('/api/lessons/x')).toEqual({})
})

test('a page learns from any answer that its server has been renewed, and only from one that says so', async () => {
  const { isServerNewer } = await import('./newerServer')
  asFetch(() => Response.json({}))
  await call('/api/lessons/x')
  expect(isServerNewer()).toBe(false)
  asFetch(() => Response.json({}, { headers: { 'x-yarn-step-edition': 'another' } }))
  await call('/api/lessons/x')
  expect(isServerNewer()).toBe(true)
})

import { newestOf } from './newestOf'

test('only so many run at once: the newest win, and the others are told', async () => {
  const limited = newestOf(2, () => 'Another was asked for.')
  const begun: number[] = []
  const ends: (() => void)[] = []
  const work = (number: number) =>
    limited(
      (signal) =>
        new Promise<number>((resolve, reject) => {
          begun.push(number)
          ends[number] = () => resolve(number)
          signal.addEventListener('abort', () => reject(new Error('killed')))
        }),
    )
  const all = [0, 1, 2, 3].map((number) => work(number).catch((error: Error) => error.message))
  ends[2]!()
  ends[3]!()
  expect(await Promise.all(all)).toEqual(['Another was asked for.', 'Another was asked for.', 2, 3])
  expect(begun).toEqual([0, 1, 2, 3])
})

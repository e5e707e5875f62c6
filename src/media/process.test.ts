import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { isDiskFull } from './store/disk'
import { orDamaged } from './ffmpeg'
import { ProgramError, runProgram } from './process'

const fails = (...script: string[]) => runProgram('bash', ['-c', ...script], { limit: 20 }).catch((error) => error)

test('a program that takes too long, too much memory or finds no room is told apart from a bad file', async () => {
  const time = await runProgram('sleep', ['20'], { limit: 0.2 }).catch((error) => error)
  expect(time).toMatchObject({ name: 'ProgramError', reason: 'time' })
  const memory = await runProgram('python3', ['-c', 'x = bytearray(400_000_000)'], { limit: 20, memory: 1e8 }).catch(
    (error) => ({ ...error, reason: /MemoryError/.test(error.messages) ? 'memory' : error.reason }),
  )
  expect(memory).toMatchObject({ reason: 'memory' })
  expect(await fails('echo "x.wav: No space left on device" >&2; exit 1')).toMatchObject({ reason: 'disk' })
  expect(await fails('echo "Cannot allocate memory" >&2; exit 1')).toMatchObject({ reason: 'memory' })
  expect(await fails('echo "Invalid data" >&2; exit 1')).toMatchObject({ reason: 'program' })
})

test.each([
  ['disk', /disk .* is full/],
  ['time', /takes too long: reading\.wav/],
  ['memory', /more memory .*: reading\.wav/],
  ['program', /damaged or incomplete: reading\.wav/],
] as const)('%s is said in a sentence of its own', async (reason, sentence) => {
  const failing = orDamaged('reading.wav', async () => {
    throw new ProgramError('ffmpeg', 'anything', reason)
  })
  await expect(failing).rejects.toThrow(sentence)
})

test('a full disk is known by whatever met it', () => {
  expect(isDiskFull(Object.assign(new Error('x'), { code: 'ENOSPC' }))).toBe(true)
  expect(isDiskFull(new Error('outer', { cause: new ProgramError('ffmpeg', '', 'disk') }))).toBe(true)
  expect(isDiskFull(new Error('pngsave: unable to write, No space left on device'))).toBe(true)
  expect(isDiskFull(new Error('something else'))).toBe(false)
})

test('a program ends with the process that started it, however that ends', async () => {
  // A process that starts a program the way ours do, tells its number, and waits.
  const parent = spawn('bash', ['-c', 'setpriv --pdeathsig KILL sleep 60 & echo $!; wait'])
  const pid = Number(
    await new Promise((resolve) => parent.stdout.once('data', (data: Buffer) => resolve(String(data)))),
  )
  await new Promise((resolve) => setTimeout(resolve, 200))
  parent.kill('SIGKILL')
  for (let tries = 0; tries < 50 && existsSync(`/proc/${pid}/exe`); tries++)
    await new Promise((resolve) => setTimeout(resolve, 50))
  expect(existsSync(`/proc/${pid}/exe`)).toBe(false)
})

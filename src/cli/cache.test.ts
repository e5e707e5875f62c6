import { mkdir, mkdtemp, readdir, rm, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { prune } from './cache'

test('what was kept first goes where it becomes too much', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'yarn-step-cache-'))
  const put = async (kind: string, name: string, bytes: number, age: number) => {
    const own = join(folder, kind, 'ab', ...(kind === 'media' ? [name] : []))
    await mkdir(own, { recursive: true })
    const path = kind === 'media' ? own : join(own, name)
    await writeFile(kind === 'media' ? join(own, 'original') : path, Buffer.alloc(bytes))
    const since = new Date(Date.now() - age * 1000)
    await utimes(path, since, since)
  }
  await put('media', 'old', 1000, 300)
  await put('coded', 'older.h264', 1000, 400)
  await put('media', 'new', 1000, 10)
  await prune(folder, 3000)
  expect(await readdir(join(folder, 'coded/ab'))).toEqual(['older.h264'])
  await prune(folder, 1500)
  expect(await readdir(join(folder, 'coded/ab'))).toEqual([])
  expect(await readdir(join(folder, 'media/ab'))).toEqual(['new'])
  await rm(folder, { recursive: true })
})

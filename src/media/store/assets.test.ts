import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openAssets, type Recipe } from './assets'
import { folderObjects } from './folderObjects'

const folder = mkdtempSync(join(tmpdir(), 'yarn-step-assets-'))
afterAll(() => rmSync(folder, { recursive: true }))

const recipe = (what: string): Recipe => ({
  ...{ kind: 'speech', edition: 1, sources: [], recipe: [what], extension: 'speech' },
})

test('of many, only what is missing is made, in order, and what is asked for twice is made once', async () => {
  const assets = openAssets(folderObjects(folder))
  await assets.bytes(recipe('b'), async () => Buffer.from('b'))
  const made: number[] = []
  const all = await assets.all(['a', 'b', 'a', 'c'].map(recipe), async (missing, keep) => {
    for (const i of missing) {
      made.push(i)
      await keep(i, Buffer.from('abac'[i]!))
    }
  })
  expect(made).toEqual([0, 3])
  expect(all.map(String)).toEqual(['a', 'b', 'a', 'c'])
  await assets.all(['a', 'b', 'c'].map(recipe), () => Promise.reject(new Error('nothing is missing')))
})

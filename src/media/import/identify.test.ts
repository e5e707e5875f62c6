import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { identifyFile } from './identify'

let folder: string
beforeAll(async () => (folder = await mkdtemp(join(tmpdir(), 'yarn-step-identify-'))))
afterAll(() => rm(folder, { recursive: true }))

async function kindOf(text: string): Promise<string> {
  const file = join(folder, 'file')
  await writeFile(file, text)
  return identifyFile(file, 'file').then(
    ({ extension }) => extension,
    ({ message }: Error) => message,
  )
}

test.each([
  '<svg/>'.replace('/', ' /'),
  '\uFEFF<?xml version="1.0"?>\n<!-- a --><!-- b > c -->\n<!DOCTYPE svg PUBLIC "x" "y">\n<svg width="1">',
  '  <SVG>',
])('a drawing is known whatever stands before it', async (text) => {
  expect(await kindOf(text)).toBe('svg')
})

test.each(['<svgs>', '<!-- <svg> -->', '<html><svg></svg></html>', '<!-- without an end <svg>', '<?xml'])(
  'what only looks like one is none: %s',
  async (text) => expect(await kindOf(text)).not.toBe('svg'),
)

test('a beginning that leads many ways is looked at once', async () => {
  const before = process.cpuUsage()
  // By trying all ways this took for ever.
  expect(await kindOf('<!---->'.repeat(120) + 'x')).not.toBe('svg')
  expect(await kindOf('<!--'.repeat(250))).not.toBe('svg')
  expect(process.cpuUsage(before).user).toBeLessThan(2e6)
})

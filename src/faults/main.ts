import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { seededRandom } from '@/core/random'
import { startDemo } from './demo'
import { feed, type FeedReport } from './feed'
import { fillDisk } from './fullDisk'
import { hostileArchives } from './hostileArchives'
import { hostileDecks } from './hostileDecks'
import { goodFiles, hostileFiles } from './hostileMedia'
import { killAndLook } from './kills'

/**
 * `npm run faults [-- kills disk media decks archives] [--seed N] [--count N]`: kills, a full disk, and hostile files against the
 * demo as it runs for everybody. Ends with an error where anything was lost, crashed, or was not told in a sentence.
 */

const COUNTS = { kills: 60, media: 300, archives: 100 }
const MOST_MEMORY = 1024 ** 3
const UP_AGAIN = 15 // seconds, with nothing else on the machine

const words = process.argv.slice(2)
const option = (name: string) => {
  const at = words.indexOf(`--${name}`)
  return at < 0 ? null : Number(words[at + 1])
}
const isWanted = (name: string) => words.every((word) => !/^[a-z]+$/.test(word)) || words.includes(name)
const seed = option('seed') ?? 1
const countOf = (name: keyof typeof COUNTS) => option('count') ?? COUNTS[name]

const data = await mkdtemp(join(tmpdir(), 'yarn-step-faults-'))
const wrong: string[] = []
if (isWanted('disk')) {
  const disk = await fillDisk(join(data, 'disk'))
  console.log(disk ? `full disk: ${disk.wrong.length} wrong` : 'full disk: not tried, it needs root to mount one')
  wrong.push(...(disk?.wrong ?? []))
}
if (['kills', 'media', 'decks', 'archives'].some(isWanted)) {
  const demo = await startDemo(join(data, 'demo'))
  const processes = () => [demo.pidOf('server'), demo.pidOf('worker')]
  try {
    if (isWanted('media')) {
      const files = hostileFiles(await goodFiles(), countOf('media'), seededRandom(seed))
      tell('hostile media', await feed(demo.url, files, 'media', processes))
    }
    if (isWanted('decks')) tell('hostile decks', await feed(demo.url, await hostileDecks(), 'media', processes))
    if (isWanted('archives'))
      tell(
        'hostile archives',
        await feed(demo.url, await hostileArchives(countOf('archives'), seededRandom(seed)), 'archive', processes),
      )
    if (isWanted('kills')) {
      const report = await killAndLook(demo, countOf('kills'), seededRandom(seed), {
        upAgain: UP_AGAIN,
        say: console.log,
      })
      const { seconds, victim } = report.slowestReturn
      console.log(
        `kills: ${report.kills}, ${report.wrong.length} wrong; longest until up again ${seconds.toFixed(1)} s (${victim})`,
      )
      wrong.push(...report.wrong)
    }
  } finally {
    await demo.stop()
  }
}
await rm(data, { recursive: true, force: true })
for (const one of wrong) console.error(`WRONG: ${one}`)
process.exit(wrong.length > 0 ? 1 : 0)

function tell(what: string, { files, taken, refused, slowest, memory, wrong: bad }: FeedReport): void {
  console.log(
    `${what}: ${files} files, ${taken} taken, ${refused} refused, ${bad.length} wrong; slowest ${slowest.seconds.toFixed(1)} s (${slowest.name.slice(0, 40)}); most memory ${(memory.bytes / 1e6).toFixed(0)} MB (${memory.command})`,
  )
  wrong.push(...bad.map((one) => `${what}: ${one}`))
  if (memory.bytes > MOST_MEMORY) wrong.push(`${what}: a process held ${(memory.bytes / 1e6).toFixed(0)} MB`)
}

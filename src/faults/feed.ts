import { createClient, until } from './client'
import type { HostileFile } from './hostileMedia'
import { watchMemory } from './processes'

/** What came of feeding files to a running application. */
export interface FeedReport {
  files: number
  taken: number
  refused: number
  /** Each a thing that must not be: what, and with which file. */
  wrong: string[]
  slowest: { seconds: number; name: string }
  memory: { bytes: number; command: string }
}

const LONGEST = 60 // seconds
/** What stands in no sentence for an author. */
const INTERNAL =
  /\bat \S+ \(|\.m?[jt]s:\d|\bselect\b.*\bfrom\b|\binsert into\b|postgresql:|\/(?:tmp|work|home|root|var)\/|Error:/i

export async function feed(
  url: string,
  files: readonly HostileFile[],
  purpose: 'media' | 'archive',
  processes: () => readonly (number | undefined)[],
): Promise<FeedReport> {
  const client = createClient(url)
  const before = processes().join()
  const report: FeedReport = { files: files.length, taken: 0, refused: 0, wrong: [], ...NOTHING_YET }
  const watch = watchMemory(processes)
  for (const { name, bytes } of files) {
    const begun = performance.now()
    const wrong = (what: string) => report.wrong.push(`${what}: ${JSON.stringify(name.slice(0, 40))}`)
    try {
      const { state, error, result } = await client.bringIn(name, bytes, purpose)
      if (state === 'done') report.taken++
      else report.refused++
      if (state === 'failed' && !isSentence(error)) wrong(`no sentence (${error})`)
      if (result?.lesson) await lookAt(client.url, result.lesson)
    } catch (error) {
      wrong((error as Error).message)
    }
    const seconds = (performance.now() - begun) / 1000
    if (seconds > report.slowest.seconds) report.slowest = { seconds, name }
    if (seconds > LONGEST) wrong(`took ${seconds.toFixed(0)} s`)
  }
  report.memory = watch.stop()
  if (processes().join() !== before) report.wrong.push('a process of the application has crashed')
  if ((await client.ask('/api/health')).status !== 200) report.wrong.push('the application does not answer')
  return report
}

const NOTHING_YET = { slowest: { seconds: 0, name: '' }, memory: { bytes: 0, command: '' } }

const isSentence = (text: string | null) => text !== null && /^[A-Z0-9].*[.?]$/s.test(text) && !INTERNAL.test(text)

/** An opened copy is a lesson like any other: it is read, planned, and listed beside the others. */
async function lookAt(url: string, lesson: string): Promise<void> {
  const { ask } = createClient(url)
  const opened = await ask(`/api/lessons/${lesson}`)
  if (opened.status !== 200) throw new Error(`an opened copy can't be read (${opened.status})`)
  const { revision } = (await opened.json()) as { revision: number }
  const body = JSON.stringify({ kind: 'balance', lesson, revision })
  const { id } = (await (await ask('/api/jobs', { method: 'POST', body })).json()) as { id: string }
  await until(
    async () => {
      const [task] = (await (await ask(`/api/jobs?id=${id}`)).json()) as { state: string; error: string | null }[]
      if (task?.state === 'failed' && !isSentence(task.error)) throw new Error(`no sentence (${task.error})`)
      return task?.state === 'done' || task?.state === 'failed' ? task : null
    },
    `planning of ${lesson}`,
    LONGEST * 1000,
  )
  if ((await ask('/api/courses')).status !== 200) throw new Error('the courses can not be listed any more')
  await ask(`/api/lessons/${lesson}`, { method: 'DELETE' })
}

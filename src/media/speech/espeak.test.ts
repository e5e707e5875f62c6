import { readFileSync } from 'node:fs'
import { DEFAULT_READING, sentencesToSay } from '@/core/narration/speechVoice'
import { readScript } from '@/core/narration/words/script'
import type { SpokenSentence } from './engine'
import { espeak } from './espeak'

/** No two neighbours have as many words. */
const script = readScript(
  Array.from({ length: 40 }, (_, i) => `The buoy shows a ${'very '.repeat(i % 7)}green light to the north.`).join(' '),
)
const settings = { ...DEFAULT_READING, voice: 'en-gb' }

async function reading(onSentence: (count: number) => void): Promise<SpokenSentence[]> {
  const said: SpokenSentence[] = []
  await espeak.say(sentencesToSay(script, [], 'en'), settings, (one) => {
    said.push(one)
    onSentence(said.length)
  })
  return said
}

/** Processes that this one has started. */
const children = (): number[] =>
  readFileSync(`/proc/${process.pid}/task/${process.pid}/children`, 'utf8').split(' ').filter(Boolean).map(Number)

test('where the synthesiser dies, another one says what is left: each sentence once, in order', async () => {
  const undisturbed = await reading(() => {})
  let killed = 0
  const disturbed = await reading((count) => {
    if (count !== 3) return
    for (const pid of children()) process.kill(pid, 'SIGSEGV')
    killed++
  })
  expect(killed).toBe(1)
  expect(disturbed).toHaveLength(40)
  const wordsIn = (said: SpokenSentence[]) => said.map(({ starts }) => starts!.length)
  expect(wordsIn(disturbed)).toEqual(wordsIn(undisturbed))
})

test('one that dies again and again is told', async () => {
  const dying = reading(() => children().forEach((pid) => process.kill(pid, 'SIGSEGV')))
  await expect(dying).rejects.toThrow('SIGSEGV')
})

import { readdirSync, readFileSync } from 'node:fs'
import compile from 'icu-minify/compile'
import { de } from './de'
import { en } from './en'
import { languageFor, languageOf } from './languages'
import { speaking } from './onServer'
import { say, wordsToHand } from './say'
import { wordsFrom } from './words'

/** Names of the values and tags that a message wants, wherever they stand in it (icu-minify's form). */
function namesIn(parts: unknown): string[] {
  if (!Array.isArray(parts)) return []
  return parts.flatMap((part: unknown) => {
    if (!Array.isArray(part)) return []
    const [name, ...rest] = part as [string, ...unknown[]]
    const choices = rest.find((one) => typeof one === 'object' && one !== null && !Array.isArray(one)) ?? {}
    return [name, ...namesIn(rest), ...Object.values(choices).flatMap(namesIn)]
  })
}
const wanted = (message: string) => [...new Set(namesIn(compile(message)))].sort()

const pairs = Object.entries(en).flatMap(([group, messages]) =>
  Object.entries<string>(messages).map(([key, message]) => ({
    key: `${group}.${key}`,
    message,
    translated: (de as Record<string, Record<string, string>>)[group]![key]!,
  })),
)

test('every language puts the same values into a message', () => {
  const differing = pairs.filter(({ message, translated }) => wanted(message).join() !== wanted(translated).join())
  expect(differing).toEqual([])
})

test('everything that can be said is said somewhere', () => {
  const files = readdirSync('src', { recursive: true, encoding: 'utf8' })
  const code = files
    .filter((file) => /\.tsx?$/.test(file) && !/^messages\/(en|de)\.ts$/.test(file))
    .map((file) => readFileSync(`src/${file}`, 'utf8'))
    .join('\n')
  const isSaid = (key: string) => code.includes(`'${key}'`) || code.includes(`\`${key.split('.')[0]}.\${`)
  expect(pairs.map(({ key }) => key).filter((key) => !isSaid(key))).toEqual([])
})

test('nothing that is said is left empty, and sentences keep their ends', () => {
  const end = (text: string) => /[.:?…!]$/.exec(text.trim())?.[0] ?? ''
  expect(pairs.filter(({ translated }) => translated.trim() === '')).toEqual([])
  expect(pairs.filter(({ message, translated }) => end(message) !== end(translated))).toEqual([])
})

test('plurals follow the rules of the language', () => {
  expect(say('home.steps', { count: 1, length: '0:10' })).toBe('1 step · 0:10')
  expect(speaking('de', () => say('home.steps', { count: 1, length: '0:10' }))).toBe('1 Schritt · 0:10')
  expect(speaking('de', () => say('home.steps', { count: 2, length: '0:10' }))).toBe('2 Schritte · 0:10')
})

test('each request is answered in its own language, however long it takes', async () => {
  const later = async () => {
    await new Promise((resolve) => setTimeout(resolve, 5))
    return say('lesson.saved')
  }
  expect(await Promise.all([speaking('de', later), speaking('en', later), later()])).toEqual([
    'Gesichert',
    'Saved',
    'Saved',
  ])
})

test('what a page gets says the same', () => {
  const handed = speaking('de', wordsToHand)
  const there = wordsFrom(JSON.parse(JSON.stringify(handed)) as typeof handed)
  expect(there.say('home.steps', { count: 2, length: '0:10' })).toBe('2 Schritte · 0:10')
})

test('a browser is answered in the first of its languages that is spoken', () => {
  expect(languageFor('de-AT,de;q=0.9,en;q=0.8')).toBe('de')
  expect(languageFor('fr;q=0.9,en;q=0.5,de;q=0.7')).toBe('de')
  expect(languageFor('fr-FR,fr')).toBe('en')
  expect(languageFor('')).toBe('en')
  expect(languageOf('other=1; yarn-step-language=de', 'en')).toBe('de')
  expect(languageOf('yarn-step-language=xx', 'de')).toBe('de')
})

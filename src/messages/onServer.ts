import { AsyncLocalStorage } from 'node:async_hooks'
import compile from 'icu-minify/compile'
import { de } from './de'
import { en } from './en'
import { LANGUAGES, type Language } from './languages'
import { WORDS_ON_SERVER } from './say'
import { wordsFrom, type CompiledMessages, type Translation, type Words } from './words'

/** All languages, and which of them is spoken in what a server does at the moment. */

const TRANSLATIONS: Record<Language, Translation> = { en, de }

const messagesOf = (language: Language): CompiledMessages =>
  (compiled[language] ??= Object.fromEntries(
    Object.entries(TRANSLATIONS[language]).map(([group, messages]) => [
      group,
      Object.fromEntries(Object.entries<string>(messages).map(([key, message]) => [key, compile(message)])),
    ]),
  ) as CompiledMessages)
const compiled: Partial<Record<Language, CompiledMessages>> = {}

/** Runs something in a language; everything that is said while it runs, however late, is said in that. */
export const speaking = <T>(language: Language, run: () => T): T => shared.spoken.run(language, run)

interface Shared {
  (): Words
  spoken: AsyncLocalStorage<Language>
}

/** One for all bundles of the process: the server's own and Next's. */
const shared: Shared = ((globalThis as { [WORDS_ON_SERVER]?: Shared })[WORDS_ON_SERVER] ??= newlyShared())

function newlyShared(): Shared {
  const spoken = new AsyncLocalStorage<Language>()
  const words: Partial<Record<Language, Words>> = {}
  const now = () => {
    const language = spoken.getStore() ?? LANGUAGES[0]
    return (words[language] ??= wordsFrom({ language, messages: messagesOf(language) }))
  }
  return Object.assign(now, { spoken })
}

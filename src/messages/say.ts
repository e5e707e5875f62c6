import type { Language } from './languages'
import { wordsFrom, type CompiledMessages, type HandedWords, type Say, type Words } from './words'

/**
 * A message in the language of whoever sees it. To be called when something is shown, not when a file is loaded: one
 * server speaks to many.
 */
export const say = new Proxy((() => '') as unknown as Say, {
  apply: (_, __, args: Parameters<Say>) => wordsNow().say(...args),
  get: (_, name: keyof Say) => wordsNow().say[name],
})

/** The language it is said in. */
export const language = (): Language => wordsNow().language

/** Where a page has its words, see `ui/parts/WordsInPage.tsx`. */
export const WORDS_IN_PAGE = 'words'
/** Where the server has them, see `onServer.ts`: its bundles share nothing but what is global. */
export const WORDS_ON_SERVER = Symbol.for('yarn-step.words')

let ofPage: Words | undefined

/** For whoever has no words of their own: a page, or its workers. */
export function wordsToHand(): HandedWords {
  const { language: spoken, messages } = wordsNow()
  return { language: spoken, messages }
}

/** False in a page that the server could not make: it comes without words, see `ui/parts/Worded.tsx`. */
export const areWordsThere = (): boolean =>
  WORDS_ON_SERVER in globalThis || ofPage !== undefined || Boolean(document.getElementById(WORDS_IN_PAGE)?.textContent)

export function takeWords(words: HandedWords): void {
  ofPage = wordsFrom(words)
}

function wordsNow(): Words {
  const onServer = (globalThis as { [WORDS_ON_SERVER]?: () => Words })[WORDS_ON_SERVER]
  return onServer ? onServer() : (ofPage ??= wordsFrom(readPage()))
}

const readPage = (): HandedWords => ({
  language: document.documentElement.lang as Language,
  messages: JSON.parse(document.getElementById(WORDS_IN_PAGE)!.textContent) as CompiledMessages,
})

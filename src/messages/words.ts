import { createTranslator } from 'use-intl/core'
import type { en } from './en'
import type { Language } from './languages'

/** All that is said, by its keys: what English says, every other language says as well. */
export type Messages = typeof en
export type Translation = { [Group in keyof Messages]: { [Key in keyof Messages[Group]]: string } }

/** Sentences taken apart (icu-minify's form), as they are handed to a page. */
export type CompiledMessages = { [Group in keyof Messages]: { [Key in keyof Messages[Group]]: unknown } }

/** Gives a message by its key, its values put in: `say('booth.takes', { count: 3 })`. */
export type Say = ReturnType<typeof createTranslator<Messages>>

/** What a page is given by the server, and gives to its workers. */
export interface HandedWords {
  language: Language
  messages: CompiledMessages
}

export interface Words extends HandedWords {
  say: Say
}

/** Throws, when asked, for a message that is not there or lacks a value. */
export function wordsFrom({ language, messages }: HandedWords): Words {
  const fail = (error: Error) => {
    throw error
  }
  // Taken apart, the messages no longer show what values they want: their types do.
  const say = createTranslator({ locale: language, messages, onError: fail, timeZone: 'UTC' }) as unknown as Say
  return { language, messages, say }
}

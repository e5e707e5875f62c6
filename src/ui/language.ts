import type { SpeechVoice } from '@/core/narration/speechVoice'
import { language } from '@/messages/say'

/** The language that a browser is set to: a first guess at what somebody teaches in. */
export const browserLanguage = (): string => globalThis.navigator?.language ?? 'en'

/** The languages there are voices for, by name. */
export function spokenLanguages(voices: readonly SpeechVoice[]): { value: string; label: string }[] {
  const names = new Intl.DisplayNames(language(), { type: 'language', fallback: 'code' })
  return [...new Set(voices.map((voice) => voice.language))]
    .map((value) => ({ value, label: nameOf(names, value) }))
    .sort((a, b) => a.label.localeCompare(b.label, language()))
}

function nameOf(names: Intl.DisplayNames, tag: string): string {
  try {
    return names.of(tag) ?? tag
  } catch {
    return tag
  }
}

import { isLanguage, LANGUAGE_COOKIE, type Language } from '@/messages/languages'
import type { Ground } from './ground/palette'
import type { GroundChoice } from './ground/useGround'

/** How somebody wants to see the pages: kept in the browser, and sent with every request, so that pages come as wanted. */
export interface Preferences {
  ground: GroundChoice
  /** What the system asked for when it was last seen: a page that follows it comes right from the server. */
  systemGround: Ground
  /** What the interface is read in; null: as the browser asks for it. */
  language: Language | null
}

const COOKIES: Record<keyof Preferences, string> = {
  ground: 'yarn-step-ground',
  systemGround: 'yarn-step-system-ground',
  language: LANGUAGE_COOKIE,
}

/** From the cookies of a request; what nobody has chosen follows the system. */
export function readPreferences(cookie: (name: string) => string | undefined): Preferences {
  const ground = cookie(COOKIES.ground)
  const language = cookie(COOKIES.language)
  return {
    ground: ground === 'day' || ground === 'dark' ? ground : 'system',
    systemGround: cookie(COOKIES.systemGround) === 'dark' ? 'dark' : 'day',
    language: isLanguage(language) ? language : null,
  }
}

const YEAR = 365 * 24 * 3600 // s

/** Keeps a choice in this browser. */
export function keepPreference<K extends keyof Preferences>(name: K, value: Preferences[K]): void {
  const age = value === null ? 0 : YEAR
  document.cookie = `${COOKIES[name]}=${value};path=/;max-age=${age};samesite=lax`
}

import type { Ground } from './ground/palette'
import type { GroundChoice } from './ground/useGround'

/** How somebody wants to see the pages: kept in the browser, and sent with every request, so that pages come as wanted. */
export interface Preferences {
  ground: GroundChoice
  /** What the system asked for when it was last seen: a page that follows it comes right from the server. */
  systemGround: Ground
}

const COOKIES: Record<keyof Preferences, string> = {
  ground: 'yarn-step-ground',
  systemGround: 'yarn-step-system-ground',
}

/** From the cookies of a request; what nobody has chosen follows the system. */
export function readPreferences(cookie: (name: string) => string | undefined): Preferences {
  const ground = cookie(COOKIES.ground)
  return {
    ground: ground === 'day' || ground === 'dark' ? ground : 'system',
    systemGround: cookie(COOKIES.systemGround) === 'dark' ? 'dark' : 'day',
  }
}

const YEAR = 365 * 24 * 3600 // s

/** Keeps a choice in this browser. */
export function keepPreference<K extends keyof Preferences>(name: K, value: Preferences[K]): void {
  document.cookie = `${COOKIES[name]}=${value};path=/;max-age=${YEAR};samesite=lax`
}

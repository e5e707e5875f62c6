import { nanoid } from 'nanoid'

const KEY = 'yarn-step-owner'
let own: string | undefined

/** Tells the server whose recordings these are: a token that this browser has made for itself and shows to nobody else. */
export function asOwner(): Record<string, string> {
  own ??= remembered()
  return { 'x-yarn-step-owner': own }
}

/** Where nothing can be remembered, it is known until the page is gone. */
function remembered(): string {
  try {
    const known = localStorage.getItem(KEY)
    if (known) return known
    const made = nanoid(32)
    localStorage.setItem(KEY, made)
    return made
  } catch (error) {
    console.error(error)
    return nanoid(32)
  }
}

import type { WordPlace } from '../../lesson/lessonStore'

/** Words of the score under a pointer that drags something to them. */

interface Point {
  clientX: number
  clientY: number
}

/** The word under the pointer, or the nearest one of the line that is. */
function wordUnder({ clientX, clientY }: Point): HTMLElement | null {
  const under = document.elementsFromPoint(clientX, clientY)
  const word = under.flatMap((one) => one.closest<HTMLElement>('[data-word]') ?? [])[0]
  if (word) return word
  const line = under.find((one) => one.matches('[data-line]'))
  const words = [...(line?.querySelectorAll<HTMLElement>('[data-word]') ?? [])]
  const away = (one: HTMLElement) => Math.abs(one.getBoundingClientRect().left - clientX)
  return words.sort((a, b) => away(a) - away(b))[0] ?? null
}

/** Shows to which word something would go; null: to none any more. */
export function markTarget(point: Point | null): void {
  const word = point && wordUnder(point)
  for (const one of document.querySelectorAll('[data-target]')) if (one !== word) one.removeAttribute('data-target')
  word?.setAttribute('data-target', '')
}

export function placeUnder(point: Point): WordPlace | null {
  const word = wordUnder(point)
  const step = word?.closest<HTMLElement>('[data-step]')?.dataset.step
  return word && step ? { step, word: Number(word.dataset.word) } : null
}

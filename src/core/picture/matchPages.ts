import { matchWords } from '@/core/narration/words/matchWords'
import type { PageMatch } from '@/core/messages/job'

/** What a page is known by: its text, and its picture as small greys (0..1), equally many for all pages. */
export interface PagePrint {
  text: string
  pixels: Float32Array
}

/** Pages more alike than this are the same, and those more than that one page changed a little. */
const SAME = 0.985
const ALIKE = 0.55

/**
 * Which page of a new deck is which of the old: the pairs that are most alike, each page once, wherever it has moved to.
 * In the order of the new deck; pages that are gone come last.
 */
export function matchPages(old: readonly PagePrint[], now: readonly PagePrint[]): PageMatch[] {
  const pairs = old
    .flatMap((a, i) => now.map((b, j) => ({ i, j, alike: likeness(a, b) - 0.002 * Math.abs(i - j) })))
    .filter(({ alike }) => alike >= ALIKE)
    .sort((a, b) => b.alike - a.alike)
  const ofNow = new Map<number, { i: number; alike: number }>()
  const used = new Set<number>()
  for (const { i, j, alike } of pairs) {
    if (used.has(i) || ofNow.has(j)) continue
    used.add(i)
    ofNow.set(j, { i, alike })
  }
  const kept = now.map((page, j): PageMatch => {
    const match = ofNow.get(j)
    if (!match) return { old: null, now: j + 1, change: 'new' }
    const same = likeness(old[match.i]!, page) >= SAME
    return { old: match.i + 1, now: j + 1, change: same ? 'same' : 'changed' }
  })
  const gone = old.flatMap((_, i): PageMatch[] => (used.has(i) ? [] : [{ old: i + 1, now: null, change: 'gone' }]))
  return [...kept, ...gone]
}

/** 0..1; half by text where there is some, the rest by picture. */
function likeness(a: PagePrint, b: PagePrint): number {
  const picture = pictureLikeness(a.pixels, b.pixels)
  if (!a.text && !b.text) return picture
  return (picture + textLikeness(a.text, b.text)) / 2
}

function textLikeness(a: string, b: string): number {
  const [x, y] = [a, b].map((text) => text.split(/\s+/).filter(Boolean)) as [string[], string[]]
  if (x.length + y.length === 0) return 1
  const shared = matchWords(x, y).reduce((sum, partner) => sum + (partner >= 0 ? 1 : 0), 0)
  return (2 * shared) / (x.length + y.length)
}

/** Slides share their ground: only what one of them has on it counts. */
function pictureLikeness(a: Float32Array, b: Float32Array): number {
  let [difference, marked] = [0, 0]
  const [groundA, groundB] = [usual(a), usual(b)]
  for (let i = 0; i < a.length; i++) {
    const [x, y] = [Math.abs(a[i]! - groundA), Math.abs(b[i]! - groundB)]
    if (x < 0.02 && y < 0.02) continue
    difference += Math.min(1, 2 * Math.abs(a[i]! - b[i]!))
    marked++
  }
  return marked === 0 ? 1 : 1 - difference / marked
}

const usual = (pixels: Float32Array) => Float32Array.from(pixels).sort()[pixels.length >> 1]!

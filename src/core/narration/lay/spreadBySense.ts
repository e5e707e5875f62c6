import { readScript } from '@/core/narration/words/script'

/** What it costs to leave a slide without words, in parts of a sentence that says just what its slide says. */
const EMPTY_SLIDE = 0.3
/** What it costs to be a whole lesson away from where even spreading would put a sentence. */
const ASTRAY = 4
const SAME_WORDS = 2
/** Forms of a word are told alike by their beginnings; shorter words say nothing about a slide. */
const STEM = 6
const SHORTEST = 4

/**
 * Parts a script that has no parts of its own over slides, in order: each sentence goes to the slide that says what it
 * says, as far as that is told by words they share, and otherwise evenly by length. `slides` is what is written on each;
 * returns one text a slide, some may be empty. By dynamic programming over sentences and slides.
 */
export function spreadBySense(script: string, slides: readonly string[]): string[] {
  const sentences = readScript(script).sentences.map(({ from, to }) => ({ from, to, text: script.slice(from, to) }))
  if (sentences.length === 0) return slides.map(() => '')
  const worth = worthOf(sentences, slides, script.length)
  const places = bestPlaces(worth, slides.length)
  return slides.map((_, slide) => {
    const own = sentences.filter((_, i) => places[i] === slide)
    const next = sentences[places.lastIndexOf(slide) + 1]
    // From one sentence to the next: marks between them belong to the first.
    return own.length === 0 ? '' : script.slice(own[0]!.from, next?.from ?? script.length).trim()
  })
}

/** What it is worth to say each sentence over each slide. */
function worthOf(
  sentences: readonly { from: number; to: number; text: string }[],
  slides: readonly string[],
  length: number,
) {
  const written = slides.map((text) => new Set(stems(text)))
  const weightOf = (stem: string) => {
    const count = written.filter((own) => own.has(stem)).length
    return count === 0 ? 0 : Math.log(1 + slides.length / count)
  }
  return sentences.map(({ from, to, text }) => {
    const weighed = [...new Set(stems(text))].map((stem) => ({ stem, weight: weightOf(stem) }))
    const whole = weighed.reduce((sum, { weight }) => sum + weight, 0)
    const place = (from + to) / 2 / length
    return written.map((own, slide) => {
      const shared = weighed.reduce((sum, { stem, weight }) => sum + (own.has(stem) ? weight : 0), 0)
      const astray = place - (slide + 0.5) / slides.length
      return (whole > 0 ? (SAME_WORDS * shared) / whole : 0) - ASTRAY * astray ** 2
    })
  })
}

/** The slide of each sentence, never going back. */
function bestPlaces(worth: readonly number[][], slides: number): number[] {
  const cameFrom: number[][] = []
  let best = worth[0]!.map((value, slide) => value - EMPTY_SLIDE * slide)
  for (const row of worth.slice(1)) {
    const from: number[] = []
    let before = -1
    const next = row.map((value, slide) => {
      const staying = best[slide]!
      const moving = before < 0 ? -Infinity : best[before]! - EMPTY_SLIDE * (slide - before - 1)
      from.push(staying >= moving ? slide : before)
      if (before < 0 || best[slide]! >= best[before]! - EMPTY_SLIDE * (slide - before)) before = slide
      return value + Math.max(staying, moving)
    })
    cameFrom.push(from)
    best = next
  }
  let place = best.reduce((top, value, slide) => {
    const all = value - EMPTY_SLIDE * (slides - 1 - slide)
    return all > best[top]! - EMPTY_SLIDE * (slides - 1 - top) ? slide : top
  }, 0)
  const places = [place]
  for (const from of cameFrom.reverse()) places.unshift((place = from[place]!))
  return places
}

const stems = (text: string): string[] =>
  (text.toLowerCase().match(/\p{L}+/gu) ?? [])
    .filter((word) => word.length >= SHORTEST)
    .map((word) => word.slice(0, STEM))

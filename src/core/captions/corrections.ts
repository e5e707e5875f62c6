import type { CaptionCorrection, SoundCue, Step } from '@/core/lesson/document'
import { readScript } from '@/core/narration/words/script'

/** Captions that an author has corrected hang on their words: wherever a step says exactly these in a row, they are one. */

interface Word {
  text: string
  step: string
}

export interface CorrectedPart {
  /** The first of its words, and the one after its last. */
  from: number
  to: number
  /** None: nothing is shown. */
  lines: string[]
}

/** The words of a caption, as a correction of it is found again. */
export const wordsOfCaption = (words: readonly Word[], { from, to }: { from: number; to: number }): string =>
  words
    .slice(from, to)
    .map(({ text }) => text)
    .join(' ')

/** Where corrections apply, in order. Where two would, it is the one that begins first, then the longer one. */
export function correctedParts(words: readonly Word[], corrections: readonly CaptionCorrection[]): CorrectedPart[] {
  const longestFirst = [...corrections].sort((a, b) => b.words.length - a.words.length)
  const parts: CorrectedPart[] = []
  for (let from = 0; from < words.length;) {
    const part = partAt(words, from, longestFirst)
    if (part) parts.push(part)
    from = part?.to ?? from + 1
  }
  return parts
}

function partAt(words: readonly Word[], from: number, corrections: readonly CaptionCorrection[]): CorrectedPart | null {
  for (const { words: wanted, text } of corrections) {
    const to = endOf(words, from, wanted)
    if (to !== null)
      return {
        from,
        to,
        lines: text
          .split('\n')
          .map((line) => line.trim())
          .filter(Boolean),
      }
  }
  return null
}

/** The word after the last of these, where the step says them from here on. */
function endOf(words: readonly Word[], from: number, wanted: string): number | null {
  let said = ''
  for (let i = from; i < words.length && words[i]!.step === words[from]!.step; i++) {
    said += (i > from ? ' ' : '') + words[i]!.text
    if (said === wanted) return i + 1
    if (!wanted.startsWith(said)) return null
  }
  return null
}

/** Those whose words are written nowhere, whether or not a voice has said them yet. What stands for a sound is among its words. */
export function lostCorrections(
  corrections: readonly CaptionCorrection[],
  steps: readonly Pick<Step, 'script'>[],
  sounds: readonly Pick<SoundCue, 'caption'>[],
): CaptionCorrection[] {
  if (corrections.length === 0) return []
  const written = steps.map(
    ({ script }) =>
      ` ${readScript(script)
        .words.map(({ text }) => text)
        .join(' ')} `,
  )
  const heard = sounds.map(({ caption }) => caption.trim()).filter(Boolean)
  return corrections.filter(({ words }) => {
    const alone = heard.reduce((left, sound) => left.replace(`[${sound}]`, '').replace(sound, ''), words)
    return !written.some((script) => script.includes(` ${plain(alone)} `))
  })
}

const plain = (text: string): string => text.split(/\s+/).filter(Boolean).join(' ')

/** Two captions after each other as one. */
export const joined = (first: CaptionCorrection, second: CaptionCorrection): CaptionCorrection => ({
  words: `${first.words} ${second.words}`,
  text: `${first.text}\n${second.text}`.trim(),
})

/** A caption as two, of which the second begins at a place in its text; null where one of them would say nothing. */
export function parted({ words, text }: CaptionCorrection, at: number): [CaptionCorrection, CaptionCorrection] | null {
  const [shown, said] = [countWords(text), words.split(' ')]
  // As many of its words as are shown before the place; in proportion where it reads otherwise.
  const before = Math.round((countWords(text.slice(0, at)) / Math.max(1, shown)) * said.length)
  const [first, second] = [text.slice(0, at).trim(), text.slice(at).trim()]
  if (before === 0 || before === said.length || !first || !second) return null
  return [
    { words: said.slice(0, before).join(' '), text: first },
    { words: said.slice(before).join(' '), text: second },
  ]
}

const countWords = (text: string): number => text.split(/\s+/).filter(Boolean).length

/** What is known of somebody's way through a lesson, over all visits: where they were, and what they have been played. */
export interface Visit {
  place: number // s
  played: Stretch[]
}

/** In seconds of the lesson. */
export interface Stretch {
  start: number
  end: number
}

export const NEVER_HERE: Visit = { place: 0, played: [] }

/** All that lies in either, in order; what meets is one stretch. */
export function together(a: readonly Stretch[], b: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = []
  for (const { start, end } of [...a, ...b].sort((x, y) => x.start - y.start)) {
    const last = out.at(-1)
    // A player goes on within a frame of where it stopped.
    if (last && start <= last.end + 0.1) last.end = Math.max(last.end, end)
    else out.push({ start, end })
  }
  return out
}

/** How much of a lesson of this length has been played, 0..1. */
export function shareOf(played: readonly Stretch[], length: number): number {
  const sum = played.reduce((so, { start, end }) => so + Math.max(0, Math.min(end, length) - start), 0)
  return length > 0 ? Math.min(1, sum / length) : 0
}

const TENTH = 10
const BASE = 36

/**
 * A visit as text of at most so many characters, as course sites keep it: the lesson's length, the place, and the stretches, in
 * tenths of a second to the base of 36. Where it has to be shorter, the shortest stretches are left out.
 */
export function written({ place, played }: Visit, length: number, most: number): string {
  const number = (seconds: number) => Math.round(seconds * TENTH).toString(BASE)
  let kept = [...played]
  const text = () =>
    [number(length), number(place), ...kept.map(({ start, end }) => `${number(start)}-${number(end)}`)].join(' ')
  while (kept.length > 0 && text().length > most) {
    const shortest = kept.reduce((least, one) => (one.end - one.start < least.end - least.start ? one : least))
    kept = kept.filter((one) => one !== shortest)
  }
  return text()
}

/** What was written; nothing where it is no such text, or of a lesson of another length: that is not what was played. */
export function readVisit(text: string | null, length: number): Visit {
  const [ofLength, place, ...parts] = (text ?? '').split(' ')
  const number = (digits: string | undefined) => parseInt(digits ?? '', BASE) / TENTH
  if (!(Math.abs(number(ofLength) - length) < 1)) return NEVER_HERE
  const played = parts.flatMap((part) => {
    const [start, end] = part.split('-').map(number)
    return start !== undefined && end !== undefined && start <= end ? [{ start, end }] : []
  })
  return { place: number(place) || 0, played: together(played, []) }
}

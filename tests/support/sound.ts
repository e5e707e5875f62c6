/** Looks for one sound in another, as one would by ear. */

const COARSE = 16
const LANDMARK = 12_000

/** Where `part` begins in `whole`, and how alike they are there (-1..1) and how loud against it (1: the same). */
export function locate(part: Float32Array, whole: Float32Array): { at: number; alike: number; gain: number } {
  // A quarter of a second is enough to find the place: the loudest, since a pause is like any other.
  const from = loudestQuarter(part)
  const [a, b] = [decimated(part.subarray(from, from + LANDMARK)), decimated(whole)]
  let best = { at: 0, alike: -1 }
  for (let at = from / COARSE; at + a.length <= b.length; at++) {
    const alike = likeness(a, b, at)
    if (alike > best.alike) best = { at: at - from / COARSE, alike }
  }
  let fine = { at: 0, alike: -1 }
  for (
    let at = Math.max(0, (best.at - 2) * COARSE);
    at <= (best.at + 2) * COARSE && at + part.length <= whole.length;
    at++
  ) {
    const alike = likeness(part, whole, at)
    if (alike > fine.alike) fine = { at, alike }
  }
  return { ...fine, gain: rms(part) / rms(whole.subarray(fine.at, fine.at + part.length)) }
}

/**
 * Follows a recording through what was said, quarter second by quarter second: by how many samples each part lies off
 * the line of the one before, and how many parts are like nothing near there. Parts without sound are left out.
 */
export function follow(recorded: Float32Array, said: Float32Array): { moves: number[]; unlike: number; parts: number } {
  const part = LANDMARK
  const loud = [...Array(Math.floor(recorded.length / part)).keys()]
    .map((i) => i * part)
    .filter((from) => rms(recorded.subarray(from, from + part)) > 0.005)
  let offset = locate(recorded.subarray(loud[1], loud[1]! + 2 * part), said).at - loud[1]!
  const moves: number[] = []
  let unlike = 0
  for (const from of loud) {
    const found = near(recorded.subarray(from, from + part), said, from + offset)
    if (found.alike < 0.995) unlike++
    else {
      moves.push(found.at - from - offset)
      offset = found.at - from
    }
  }
  return { moves, unlike, parts: loud.length }
}

/** The best place within a second of `about`; `about` itself where the part is there. */
function near(part: Float32Array, whole: Float32Array, about: number): { at: number; alike: number } {
  const there = likeness(part, whole, about)
  if (there >= 0.995) return { at: about, alike: there }
  const from = Math.max(0, about - 48_000)
  const found = locate(part, whole.subarray(from, about + part.length + 48_000))
  return { at: from + found.at, alike: found.alike }
}

/**
 * How many pieces of a recording can be judged, each of 10 ms, and which share of them is what was said, where the audio
 * thread of a busy browser puts blocks of nothing between: each piece may lie up to two seconds off the line of the one
 * before. Pieces without sound, and those with such nothing in them (a microphone is never at zero for long), don't count.
 */
export function shareSaid(recorded: Float32Array, said: Float32Array): { pieces: number; share: number } {
  const piece = 480
  const pieces = [...Array(Math.floor(recorded.length / piece)).keys()]
    .map((i) => ({ from: i * piece, samples: recorded.subarray(i * piece, (i + 1) * piece) }))
    .filter(({ samples }) => rms(samples) > 0.005 && !hasNothing(samples))
  const sure = surePlace(recorded, said)
  const off = [...Array(201).keys()].flatMap((blocks) => [blocks * piece, -blocks * piece])
  const found = (ones: typeof pieces) => {
    let { offset } = sure
    return ones.filter(({ from, samples }) => {
      const move = off.find((by) => likeness(samples, said, from + offset + by) > 0.995)
      offset += move ?? 0
      return move !== undefined
    }).length
  }
  const [before, after] = [
    pieces.filter(({ from }) => from < sure.from),
    pieces.filter(({ from }) => from >= sure.from),
  ]
  return { pieces: pieces.length, share: (found(before.slice().reverse()) + found(after)) / pieces.length }
}

/** Where a recording can be told best: a place of it, and how far off it that was said. */
function surePlace(recorded: Float32Array, said: Float32Array): { from: number; offset: number } {
  // Its beginning tells where to look for the rest.
  const first = locate(recorded.subarray(0, 4 * LANDMARK), said).at
  const near = Math.max(0, first - 4 * LANDMARK)
  const there = said.subarray(near, first + recorded.length + 4 * LANDMARK)
  const places = [...Array(Math.floor(recorded.length / LANDMARK)).keys()].map((i) => {
    const { at, alike } = locate(recorded.subarray(i * LANDMARK, (i + 1) * LANDMARK), there)
    return { from: i * LANDMARK, offset: near + at - i * LANDMARK, alike }
  })
  return places.reduce((best, place) => (place.alike > best.alike ? place : best))
}

const hasNothing = (samples: Float32Array): boolean => {
  let zeros = 0
  return samples.some((value) => (zeros = value === 0 ? zeros + 1 : 0) === 32)
}

/** Between samples that stand at the same place; infinite where one sound is longer. */
export function largestDifference(a: Float32Array, b: Float32Array): number {
  if (a.length !== b.length) return Infinity
  return a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i]!)), 0)
}

export function rms(samples: Float32Array): number {
  let sum = 0
  for (const value of samples) sum += value * value
  return Math.sqrt(sum / Math.max(1, samples.length))
}

/** Correlation of `part` with the samples of `whole` from `at` on. */
export function likeness(part: Float32Array, whole: Float32Array, at: number): number {
  let product = 0
  let a = 0
  let b = 0
  for (let i = 0; i < part.length; i++) {
    const x = part[i]!
    const y = whole[at + i]!
    product += x * y
    a += x * x
    b += y * y
  }
  return a > 0 && b > 0 ? product / Math.sqrt(a * b) : 0
}

function loudestQuarter(samples: Float32Array): number {
  let [loudest, most] = [0, 0]
  for (let from = 0; from + LANDMARK <= samples.length; from += LANDMARK) {
    const level = rms(samples.subarray(from, from + LANDMARK))
    if (level > most) [loudest, most] = [from, level]
  }
  return loudest
}

/** Means of `COARSE` samples: enough to find a place. */
function decimated(samples: Float32Array): Float32Array {
  return Float32Array.from({ length: Math.floor(samples.length / COARSE) }, (_, i) => {
    let sum = 0
    for (let j = 0; j < COARSE; j++) sum += samples[i * COARSE + j]!
    return sum / COARSE
  })
}

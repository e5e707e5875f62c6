/** As a document of format 1 was. */
interface Format1 {
  bedCues: { id: string; media: string; step: string }[]
  targets: object
  steps: {
    id: string
    title: string
    script: string
    picture: { kind: string }
    passages: { id: string; media: string; from: number; to: number }[]
  }[]
}

/**
 * Format 1 knew no takes, pauses or clean-up: what is said in a step becomes a take of it. Recordings had no speed, music
 * no end of its own. Gives a document of format 2.
 */
export function upgradeFormat1(json: object): object {
  const lesson = json as Format1
  const steps = lesson.steps.map((step) => ({
    ...step,
    picture: step.picture.kind === 'recording' ? { speed: 1, cuts: [], pins: [], ...step.picture } : step.picture,
    passages: step.passages.map((passage) => ({ ...passage, pause: 0 })),
    more: [],
  }))
  return {
    ...ADDED,
    ...lesson,
    format: 2,
    steps,
    bedCues: lesson.bedCues.map((cue) => ({ ...cue, ...ADDED_TO_BEDS })),
    targets: { ...ADDED_TARGETS, ...lesson.targets },
    takes: lesson.steps.flatMap(takesOf),
  }
}

function takesOf({ id, title, script, passages }: Format1['steps'][number]) {
  const media = [...new Set(passages.map((passage) => passage.media))]
  return media.map((one, i) => {
    const own = passages.filter((passage) => passage.media === one)
    return {
      id: `${id.slice(0, 30)}-t${i}`,
      media: one,
      step: id,
      from: Math.min(...own.map(({ from }) => from)),
      to: Math.max(...own.map(({ to }) => to)),
      name: title,
      kind: 'brought-in',
      script,
      room: null,
      cleanUp: null,
      removed: false,
      retimed: [],
    }
  })
}

/** What format 2 knew besides, as it was usual in it. Written out: a document must not change when the usual does. */
const OFF = { on: false }
const TRACK = { gain: 0, muted: false }
const ADDED = {
  cleanUp: {
    noise: { ...OFF, amount: 0.95 },
    hiss: { ...OFF, amount: 12 },
    rumble: { ...OFF, below: 80 },
    tone: { ...OFF, body: 0, clearness: 2, air: 1 },
    sibilance: { ...OFF, amount: 6 },
    plosives: OFF,
    clicks: OFF,
    clipping: OFF,
    levelling: { ...OFF, amount: 0.5 },
  },
  reading: { voice: 'espeak-ng:en-gb', rate: 140, pitch: 45, pause: 0.45 },
  language: 'en-gb',
  shelf: [],
  sounds: [],
  nudges: [],
  pocket: { on: false, depth: null },
  tracks: { voice: TRACK, recordings: TRACK, sounds: TRACK, bed: TRACK },
  lengths: { leadIn: 0.4, tail: 0.6, atLeast: 3 },
}
const ADDED_TO_BEDS = {
  last: null,
  from: 0,
  to: null,
  clearance: null,
  blend: 2,
  fadeIn: null,
  fadeOut: null,
  fadeShape: 'smooth',
}
const ADDED_TARGETS = {
  clearance: 16,
  swell: 6,
  pauseFrom: 3,
  loudness: -16,
  truePeak: -1,
  slope: 9.3,
  recordingsUnder: 10,
  effectsUnder: 0,
}

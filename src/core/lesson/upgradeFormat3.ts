/** As a document of format 3 was, as far as it has to be changed. */
interface Format3 {
  steps: object[]
}

/** What format 4 knows besides, as it was in format 3. Written out: a document must not change when the usual does. */
const ADDED = {
  look: { letters: 'plain', ink: '#161d29', ground: '#ffffff', accent: '#b0204f', boxed: true },
  edge: { kind: 'cut', length: 0.5 },
  opening: 0,
  closing: 0,
}

/** Format 3 knew nothing over a picture, and pictures that followed each other at once. */
export function upgradeFormat3(json: object): object {
  const lesson = json as Format3
  return {
    ...ADDED,
    ...lesson,
    format: 4,
    steps: lesson.steps.map((step) => ({ ...step, layers: [], edge: null })),
  }
}

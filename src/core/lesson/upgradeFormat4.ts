/** As a document of format 4 was, as far as it has to be changed. */
interface Format4 {
  steps: { picture: Picture; more: { picture: Picture }[]; layers: { kind: string }[] }[]
}
interface Picture {
  kind: string
}

/** What format 5 knows besides, as it was in format 4. Written out: a document must not change when the usual does. */
const ADDED = {
  frame: { shape: '16:9', lines: 1080, rate: 30 },
  framing: { way: 'whole', ground: 'plain', middle: { x: 0.5, y: 0.5 } },
}

/** Format 4 knew one shape of video, chapters by their titles alone, and closer looks that go back. */
export function upgradeFormat4(json: object): object {
  const lesson = json as Format4
  return {
    ...ADDED,
    ...lesson,
    format: 5,
    steps: lesson.steps.map((step) => ({
      ...step,
      picture: framed(step.picture),
      more: step.more.map((one) => ({ ...one, picture: framed(one.picture) })),
      layers: step.layers.map((layer) => (layer.kind === 'closer' ? { begins: null, ...layer } : layer)),
      chapter: null,
    })),
  }
}

const framed = (picture: Picture): Picture =>
  picture.kind === 'card' ? picture : ({ framing: null, ...picture } as Picture)

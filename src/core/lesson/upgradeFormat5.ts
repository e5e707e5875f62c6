/** As a document of format 5 was, as far as it has to be changed. */
interface Format5 {
  look: object
  sounds: object[]
  narrations: Record<string, object>
}

/** How captions looked in format 5. Written out: a document must not change when the usual does. */
export const CAPTIONS_OF_FORMAT_5 = { size: 'usual', place: 'lower', ground: 'box', pace: 17 }

/** Format 5 made captions of words alone, in one look. */
export function upgradeFormat5(json: object): object {
  const lesson = json as Format5
  const narrations = Object.entries(lesson.narrations).map(([language, one]) => [
    language,
    { captionCorrections: [], ...one },
  ])
  return {
    ...lesson,
    format: 6,
    look: { captions: CAPTIONS_OF_FORMAT_5, ...lesson.look },
    sounds: lesson.sounds.map((sound) => ({ caption: '', ...sound })),
    narrations: Object.fromEntries(narrations) as object,
  }
}

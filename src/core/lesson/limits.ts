/** How much a lesson takes: far more than anybody writes or plays, so that only mistakes and attacks meet these bounds. */
export const LIMITS = {
  /** A script of an hour has some 60,000 characters. */
  scriptCharacters: 500_000,
  /** The scripts of all steps, as they are looked for in one reading. */
  lessonCharacters: 2_000_000,
  /** As long as a path may be; where a name is shown it is cut. */
  nameCharacters: 4096,
  /** A line of a card. */
  lineCharacters: 200,
  /** A caption. */
  captionCharacters: 500,
  /** Of a file or a whole lesson, in seconds. */
  length: 24 * 3600,
  items: {
    steps: 2000,
    takes: 20_000,
    marks: 20_000,
    shelf: 5000,
    bedCues: 500,
    sounds: 5000,
    nudges: 5000,
    captionCorrections: 5000,
  },
} as const

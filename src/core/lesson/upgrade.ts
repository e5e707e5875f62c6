import { DEFAULT_TARGETS, emptyLesson, lessonSchema, newBed, type Lesson } from './document'

/** Reads a lesson document of this format or an older one. Throws a ZodError where it is neither. */
export function readLesson(json: unknown): Lesson {
  return lessonSchema.parse(isFormat1(json) ? fromFormat1(json) : json)
}

interface Format1 {
  format: 1
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

function isFormat1(json: unknown): json is Format1 {
  return typeof json === 'object' && json !== null && 'format' in json && json.format === 1 && 'steps' in json
}

/**
 * Format 1 knew no takes, pauses or clean-up: what is said in a step becomes a take of it. Recordings had no speed, music
 * no end of its own.
 */
function fromFormat1(lesson: Format1): object {
  const { takes: _, ...rest } = { ...emptyLesson(''), ...lesson, format: 2 }
  const steps = lesson.steps.map((step) => ({
    ...step,
    picture: step.picture.kind === 'recording' ? { speed: 1, cuts: [], pins: [], ...step.picture } : step.picture,
    passages: step.passages.map((passage) => ({ ...passage, pause: 0 })),
    more: [],
  }))
  const bedCues = lesson.bedCues.map(({ id, media, step }) => newBed(id, media, step))
  const targets = { ...DEFAULT_TARGETS, ...lesson.targets }
  return { ...rest, steps, bedCues, targets, takes: lesson.steps.flatMap(takesOf) }
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

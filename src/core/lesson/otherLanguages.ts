import type { Lesson, Mark, Said, Step, Take } from './document'

/** What is said in the languages one does not work in goes with its steps. All of these change the lesson. */

export function forgetInOthers({ others }: Lesson, step: string): void {
  for (const narration of Object.values(others)) {
    const { said } = narration
    Reflect.deleteProperty(said, step)
    const stepOf = (take: Take) =>
      Object.entries(said).find(([, { passages }]) =>
        passages.some((passage) => passage.media === take.media && passage.from < take.to && passage.to > take.from),
      )?.[0] ?? null
    narration.takes = takesAfter(narration.takes, step, stepOf)
  }
}

/** The takes when a step has gone: its own belong to the step that still uses them; those that none uses go. */
export const takesAfter = (takes: Take[], gone: string, stepUsing: (take: Take) => string | null): Take[] =>
  takes.flatMap((take) => {
    const step = take.step === gone ? stepUsing(take) : take.step
    if (step === null) return []
    return [step === take.step ? take : { ...take, step }]
  })

export function copyInOthers(
  { others }: Lesson,
  of: string,
  copy: string,
  marks: readonly string[],
  markFor: (mark: string) => string,
): void {
  for (const narration of Object.values(others)) {
    const { said } = narration
    narration.marks.push(...copiedMarks(narration, marks, copy, markFor))
    narration.takes.push(...copiedTakes(narration, of, copy))
    const own = said[of]
    if (own)
      said[copy] = { ...own, passages: own.passages.map((one, i) => ({ ...one, id: `${copy}-${i}`.slice(-40) })) }
  }
}

/** What is said in a step follows what is said in another; `mark` is put at its beginning. */
export function joinInOthers({ others }: Lesson, step: string, into: string, mark: string | null): void {
  for (const narration of Object.values(others)) {
    const [first, second] = [narration.said[into] ?? NOTHING, narration.said[step] ?? NOTHING]
    narration.said[into] = {
      script: joinScripts(first.script, second.script),
      passages: [...first.passages, ...second.passages],
    }
    narration.said[step] = { ...NOTHING }
    for (const take of narration.takes) if (take.step === step) take.step = into
    if (mark) narration.marks.push(markAtBeginning(mark, into, first.script, second))
  }
}

export const isSaidInOthers = ({ others }: Lesson, step: string): boolean =>
  Object.values(others).some(({ said }) => said[step] && !isNothing(said[step]))

export const isNothing = ({ script, passages }: Said): boolean => script.trim() === '' && passages.length === 0

const NOTHING: Said = { script: '', passages: [] }

/** A mark at the first word of what follows `scriptBefore` in a step. */
export function markAtBeginning(id: string, step: string, scriptBefore: string, { script, passages }: Said): Mark {
  const character = joinScripts(scriptBefore, script).length - script.trim().length
  const [first] = passages
  return {
    id,
    step,
    word: script.trim() ? { character, side: 'before' } : null,
    place: first ? { media: first.media, at: first.from } : null,
    guessed: null,
  }
}

export const joinScripts = (first: string, second: string): string =>
  [first.trim(), second.trim()].filter(Boolean).join(' ')

/** The takes of a step once more, for a copy of it. */
export const copiedTakes = ({ takes }: Pick<Lesson, 'takes'>, of: string, copy: string): Take[] =>
  takes.filter(({ step }) => step === of).map((take, i) => ({ ...take, id: `${copy}-t${i}`.slice(-40), step: copy }))

/** The marks of a step, made anew for a copy of it; `idOf` gives each its new id. */
export function copiedMarks(
  { marks }: Pick<Lesson, 'marks'>,
  used: readonly string[],
  copy: Step['id'],
  idOf: (mark: string) => string,
) {
  return used.flatMap((id): Mark[] => {
    const own = marks.find((mark) => mark.id === id)
    return own ? [{ ...own, id: idOf(id), step: copy }] : []
  })
}

import type { Seconds } from '@/core/units'
import type { PassageSpan, StepSpan, TimeOfSaid } from './timeline'
import { planMotion } from './motion'
import type { PictureSpan } from './timeline'

/** The picture that is seen at `time`; the last one from the lesson's end on. */
export function pictureAt({ pictures }: { pictures: readonly PictureSpan[] }, time: Seconds): PictureSpan | undefined {
  return pictures.find(({ end }) => time < end) ?? pictures.at(-1)
}

/** Each step's picture, and its further ones from the moments on at which their words are said. */
export function layPictures(
  steps: readonly StepSpan[],
  passages: readonly PassageSpan[],
  timeOf: TimeOfSaid,
): PictureSpan[] {
  const voiceEnds = new Map(passages.map(({ step, end }) => [step.id, end]))
  return steps.flatMap(({ step, start, end }) => {
    const further = step.more
      .flatMap(({ picture, said }) => {
        const time = timeOf(said, step.id)
        return time !== null && time > start && time < end ? [{ picture, start: time }] : []
      })
      .sort((a, b) => a.start - b.start)
    const all = [{ picture: step.picture, start }, ...further]
    return all.map(({ picture, start: from }, i): PictureSpan => {
      const to = all[i + 1]?.start ?? end
      const plan =
        picture.kind === 'recording'
          ? planMotion(picture, from, to, voiceEnds.get(step.id) ?? to, (said) => timeOf(said, step.id))
          : { motions: [], missed: [] }
      return { step, picture, start: from, end: to, ...plan }
    })
  })
}

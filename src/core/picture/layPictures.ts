import type { Framing } from '@/core/lesson/framing'
import type { Seconds } from '@/core/units'
import { planMotion } from './motion'
import type { Loose, PassageSpan, PictureSpan, StepSpan, TimeOfMark } from '@/core/lesson/timeline'

/** The picture that is seen at `time`; the last one from the lesson's end on. */
export function pictureAt({ pictures }: { pictures: readonly PictureSpan[] }, time: Seconds): PictureSpan | undefined {
  return pictures.find(({ end }) => time < end) ?? pictures.at(-1)
}

/** Each step's picture, and its further ones from the moments on at which their marks are said. */
export function layPictures(
  steps: readonly StepSpan[],
  passages: readonly PassageSpan[],
  timeOf: TimeOfMark,
  usual: Framing,
): { pictures: PictureSpan[]; loose: Loose[] } {
  const voiceEnds = new Map(passages.map(({ step, end }) => [step.id, end]))
  const loose: Loose[] = []
  const pictures = steps.flatMap(({ step, start, end }) => {
    const further = step.more
      .flatMap(({ id, picture, mark }) => {
        const time = timeOf(mark)
        if (time !== null && time >= start && time < end) return [{ further: id, picture, start: time }]
        loose.push({ kind: 'picture', id, step, picture })
        return []
      })
      .sort((a, b) => a.start - b.start)
    const all = [{ further: null, picture: step.picture, start }, ...further]
    return all.map(({ further, picture, start: from }, i): PictureSpan => {
      const to = all[i + 1]?.start ?? end
      const plan =
        picture.kind === 'recording'
          ? planMotion(picture, from, to, voiceEnds.get(step.id) ?? to, timeOf)
          : { motions: [], missed: [], unsaid: [] }
      for (const id of plan.unsaid) loose.push({ kind: 'pin', id, step })
      const framing = picture.kind === 'card' ? usual : (picture.framing ?? usual)
      return { step, further, picture, framing, start: from, end: to, ...plan }
    })
  })
  return { pictures, loose }
}

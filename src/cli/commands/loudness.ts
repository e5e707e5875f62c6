import { momentarySeries, reportLoudness, shortTermSeries } from '@/core/measure/loudness'
import { measureFile } from '@/media/measure'

export async function loudness(file: string, { series }: { series?: boolean }) {
  const { track, truePeak } = await measureFile(file)
  const { integrated, range, maxMomentary, maxShortTerm } = reportLoudness(track)
  return {
    integrated,
    range,
    truePeak,
    maxMomentary,
    maxShortTerm,
    ...(series && { momentary: finite(momentarySeries(track)), shortTerm: finite(shortTermSeries(track)) }),
  }
}

/** JSON has no infinity: digital silence is null, as in the other figures. */
const finite = (values: number[]) => values.map((value) => (Number.isFinite(value) ? value : null))

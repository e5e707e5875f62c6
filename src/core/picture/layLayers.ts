import type { Seconds } from '@/core/units'
import type { Layer } from '@/core/lesson/layers'
import type { LayerSpan, Loose, PictureSpan, StepSpan, TimeOfMark } from '@/core/lesson/timeline'

/** Each layer from when it is said until it is said; one whose beginning is not said in its step is loose. */
export function layLayers(
  steps: readonly StepSpan[],
  pictures: readonly PictureSpan[],
  timeOf: TimeOfMark,
): { layers: LayerSpan[]; loose: Loose[] } {
  const loose: Loose[] = []
  const layers = steps.flatMap(({ step, start, end }) =>
    step.layers.flatMap((layer): LayerSpan[] => {
      const from = layer.from === null ? start : timeOf(layer.from)
      if (from === null || from < start || from >= end) {
        loose.push({ kind: 'layer', id: layer.id, step, layer })
        return []
      }
      const picture = pictures.find((one) => one.step === step && from >= one.start && from < one.end)
      const to = endOf(layer, timeOf, from, end)
      if (to === null && layer.to !== null) loose.push({ kind: 'layer-end', id: layer.id, step, layer })
      return [{ layer, step, start: from, end: to ?? picture?.end ?? end, isGone: to !== null }]
    }),
  )
  return { layers, loose }
}

/** Where it is said to end, within its step; null where nobody says so, or not any more. */
function endOf({ to }: Layer, timeOf: TimeOfMark, from: Seconds, end: Seconds): Seconds | null {
  const time = to === null ? null : timeOf(to)
  return time !== null && time > from && time < end ? time : null
}

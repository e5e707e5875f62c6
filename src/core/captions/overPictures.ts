import type { CaptionLook, Layer } from '@/core/lesson/layers'
import { newLayer } from '@/core/lesson/layers'
import type { LayerSpan, Timeline } from '@/core/lesson/timeline'
import type { Caption } from './captions'

/** From the frame's upper edge, in shares of its height. */
const UPPER = 0.04

/** A lesson with its captions in the picture: for the page, and for videos that have no track of them. */
export function withCaptions(timeline: Timeline, captions: readonly Caption[], { place }: CaptionLook): Timeline {
  const steps = new Map(timeline.steps.map(({ step }) => [step.id, step]))
  const layers = captions.flatMap(({ step: id, start, end, lines }, i): LayerSpan[] => {
    const step = steps.get(id)
    const layer = newLayer(`caption ${i}`, 'caption')
    if (!step || layer.kind !== 'words') return []
    const area = place === 'upper' ? { ...layer.area, y: UPPER } : layer.area
    const shown: Layer = { ...layer, area, text: lines.join('\n') }
    return [{ layer: shown, step, start, end, isGone: true }]
  })
  return { ...timeline, layers: [...timeline.layers, ...layers] }
}

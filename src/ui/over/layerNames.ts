import { layerName, type Layer, type LayerName } from '@/core/lesson/layers'
import { say } from '@/messages/say'

export const layerNames = (): Record<LayerName, string> => ({
  title: say('over.titleName'),
  'lower line': say('over.lowerLineName'),
  label: say('over.labelName'),
  caption: say('over.caption'),
  ring: say('over.ringName'),
  box: say('over.box'),
  underline: say('over.underlineName'),
  arrow: say('over.arrowName'),
  number: say('over.number'),
  cover: say('over.coverName'),
  closer: say('over.closerLook'),
  'slow move': say('over.slowMoveName'),
})

/** What lies over a picture, as its tab names it. */
export function layerTitle(layer: Layer): string {
  if (layer.kind === 'words') return layer.text ? `“${layer.text}”` : layerNames()[layer.role]
  return layer.kind === 'pointer' && layer.shape === 'number'
    ? say('over.numbered', { number: layer.number })
    : layerNames()[layerName(layer)]
}

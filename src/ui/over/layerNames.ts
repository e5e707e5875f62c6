import { layerName, type Layer, type LayerName } from '@/core/lesson/layers'

export const LAYER_NAMES: Record<LayerName, string> = {
  title: 'Title',
  'lower line': 'Lower line',
  label: 'Label',
  caption: 'Caption',
  ring: 'Ring',
  box: 'Box',
  underline: 'Underline',
  arrow: 'Arrow',
  number: 'Number',
  cover: 'Cover',
  closer: 'Closer look',
  'slow move': 'Slow move',
}

/** What lies over a picture, as its tab names it. */
export function layerTitle(layer: Layer): string {
  if (layer.kind === 'words') return layer.text ? `“${layer.text}”` : LAYER_NAMES[layer.role]
  return layer.kind === 'pointer' && layer.shape === 'number' ? `Number ${layer.number}` : LAYER_NAMES[layerName(layer)]
}

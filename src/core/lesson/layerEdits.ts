import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import type { Lesson, Step } from './document'
import type { FrameSettings, Framing } from './framing'
import type { Edge, Layer, Look } from './layers'
import { stepOf } from './lookUp'

/** What can be done to how pictures stand in the frame, what lies over them, and how they give way to each other. */
export type LayerEdit =
  | { name: 'addLayers'; step: string; layers: Layer[] }
  /** Any of its settings. */
  | { name: 'setLayer'; step: string; layer: Layer }
  | { name: 'removeLayer'; step: string; id: string }
  /** What lies above comes below, or the other way round. */
  | { name: 'moveLayer'; step: string; id: string; by: 1 | -1 }
  /** Null: as the lesson says. */
  | { name: 'setEdges'; steps: string[]; edge: Edge | null }
  | { name: 'setLessonEdge'; edge: Edge }
  | { name: 'setEnds'; opening: number; closing: number }
  | { name: 'setLook'; look: Look }
  | { name: 'setFrame'; frame: FrameSettings }
  /** For pictures that have none of their own. */
  | { name: 'setLessonFraming'; framing: Framing }
  /** Null: as the titles say. */
  | { name: 'setChapter'; step: string; chapter: Step['chapter'] }

export function changeLayers(lesson: Lesson, edit: LayerEdit): void {
  switch (edit.name) {
    case 'addLayers':
      stepOf(lesson, edit.step).layers.push(...edit.layers)
      return
    case 'setLayer': {
      const { layers } = stepOf(lesson, edit.step)
      layers[indexOf(layers, edit.layer.id)] = edit.layer
      return
    }
    case 'removeLayer': {
      const { layers } = stepOf(lesson, edit.step)
      layers.splice(indexOf(layers, edit.id), 1)
      return
    }
    case 'moveLayer': {
      const { layers } = stepOf(lesson, edit.step)
      const index = indexOf(layers, edit.id)
      const [layer] = layers.splice(index, 1)
      layers.splice(Math.max(0, index + edit.by), 0, layer!)
      return
    }
    case 'setEdges':
      for (const id of edit.steps) stepOf(lesson, id).edge = edit.edge && { ...edit.edge }
      return
    case 'setLessonEdge':
      lesson.edge = edit.edge
      return
    case 'setEnds':
      lesson.opening = edit.opening
      lesson.closing = edit.closing
      return
    case 'setLook':
      lesson.look = edit.look
      return
    case 'setFrame':
      lesson.frame = edit.frame
      return
    case 'setLessonFraming':
      lesson.framing = edit.framing
      return
    case 'setChapter':
      stepOf(lesson, edit.step).chapter = edit.chapter
      return
  }
}

function indexOf(layers: readonly Layer[], id: string): number {
  const index = layers.findIndex((one) => one.id === id)
  if (index < 0) throw new UserError(say('edits.layerGone'))
  return index
}

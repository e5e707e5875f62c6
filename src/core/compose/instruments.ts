import type { PieceKind } from './wish'

/** One instrument and what it plays. */
export interface Layer {
  role: 'pad' | 'bass' | 'figure' | 'tune' | 'drums'
  /** General MIDI program, counted from 0. */
  program: number
  /** Range in MIDI notes. */
  low: number
  high: number
  velocity: number
  /** Of a pad. */
  voices: number
  /** Of a figure: how long its notes ring, in beats. */
  sustain: number
  /** Of drums: General MIDI percussion, light, low and accent. */
  strokes?: [light: number, low: number, accent: number]
}

const layer = (role: Layer['role'], program: number, low: number, high: number, velocity: number): Layer => ({
  role,
  program,
  low,
  high,
  velocity,
  voices: 3,
  sustain: 1.5,
})
const bass = (program: number, velocity = 56) => layer('bass', program, 31, 45, velocity)
const drums = (velocity: number, strokes: Layer['strokes']): Layer => ({
  ...layer('drums', 0, 0, 127, velocity),
  strokes,
})

/** Who plays in each kind of piece. Ranges keep low instruments under the voice and bright ones above it. */
export const INSTRUMENTATION: Record<PieceKind, readonly Layer[]> = {
  pads: [layer('pad', 89, 48, 67, 58), layer('pad', 91, 72, 86, 44), bass(39, 46)],
  piano: [layer('figure', 0, 64, 88, 56), layer('pad', 89, 43, 60, 42), bass(32, 48), layer('tune', 0, 72, 88, 62)],
  harp: [layer('figure', 46, 66, 91, 60), layer('pad', 48, 46, 62, 44), bass(32, 50)],
  strings: [layer('pad', 48, 45, 67, 58), layer('pad', 44, 72, 84, 40), bass(43, 50), layer('tune', 40, 72, 86, 50)],
  guitar: [layer('figure', 24, 55, 79, 58), bass(32, 54), layer('pad', 89, 72, 84, 34)],
  'music-box': [layer('figure', 10, 76, 98, 54), layer('pad', 89, 45, 60, 42), bass(39, 40)],
  marimba: [layer('figure', 12, 60, 86, 60), bass(32, 52), layer('pad', 89, 45, 58, 36)],
  keys: [layer('pad', 4, 50, 67, 56), layer('figure', 4, 74, 90, 46), bass(33, 56), drums(34, [42, 36, 37])],
  woodwind: [
    layer('pad', 71, 45, 62, 46),
    layer('tune', 73, 72, 88, 56),
    layer('figure', 46, 72, 90, 40),
    bass(32, 48),
  ],
  percussion: [drums(44, [70, 64, 75]), layer('figure', 12, 72, 91, 50), bass(32, 52), layer('pad', 89, 45, 58, 34)],
}

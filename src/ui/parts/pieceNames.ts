import type { PieceKind } from '@/core/compose/wish'

export const KIND_NAMES: Record<PieceKind, string> = {
  pads: 'Calm pads',
  piano: 'Soft piano',
  harp: 'Harp',
  strings: 'Warm strings',
  guitar: 'Plucked guitar',
  'music-box': 'Music box',
  marimba: 'Marimba',
  keys: 'Electric keys and brushes',
  woodwind: 'Woodwind',
  percussion: 'Light percussion',
}

import type { PieceKind } from '@/core/compose/wish'
import { say } from '@/messages/say'

export const kindNames = (): Record<PieceKind, string> => ({
  pads: say('parts.calmPads'),
  piano: say('parts.softPiano'),
  harp: say('parts.harp'),
  strings: say('parts.warmStrings'),
  guitar: say('parts.pluckedGuitar'),
  'music-box': say('parts.musicBox'),
  marimba: say('parts.marimba'),
  keys: say('parts.electricKeysAndBrushes'),
  woodwind: say('parts.woodwind'),
  percussion: say('parts.lightPercussion'),
})

import { nanoid } from 'nanoid'
import type { Anchor, SoundCue } from '@/core/lesson/document'

/** A whole file hung somewhere, at its own level. */
export const newSound = (media: string, length: number, anchor: Anchor, track: SoundCue['track']): SoundCue => ({
  id: nanoid(10),
  media,
  from: 0,
  to: length,
  track,
  anchor,
  gain: 0,
  fadeIn: 0,
  fadeOut: 0,
  meant: false,
  caption: '',
})

import type { Seconds } from '@/core/units'

/** Something to look at before delivery. `at` is lesson time. */
export interface Finding {
  severity: 'fault' | 'warning' | 'hint'
  code: FindingCode
  stepId?: string
  at?: Seconds
  /** What it is about: a sound, a layer, a further picture … by its id. */
  subject?: string
  text: string
}

export type FindingCode =
  | 'no-steps'
  | 'missing-media'
  | 'words-run-over'
  | 'script-without-voice'
  | 'nothing-said'
  | 'stand-in'
  | 'script-changed'
  | 'said-otherwise'
  | 'cut-short'
  | 'only-silence'
  | 'flashing-picture'
  | 'long-picture'
  | 'clipped-take'
  | 'soft-voice'
  | 'hum'
  | 'voice-masked'
  | 'bed-lost'
  | 'near-music'
  | 'licence-unknown'
  | 'cut-off-file'
  | 'two-voices'
  | 'effect-over-words'
  | 'loose-sound'
  | 'loose-bed'
  | 'loose-bed-end'
  | 'loose-nudge'
  | 'loose-picture'
  | 'loose-pin'
  | 'loose-layer'
  | 'loose-layer-end'
  | 'sound-cut-off'
  | 'low-contrast'
  | 'small-words'
  | 'outside'
  | 'short-label'
  | 'edge-over-words'
  | 'pin-missed'
  | 'short-captions'
  | 'fast-captions'
  | 'wide-captions'
  | 'captions-over-words'
  | 'lost-captions'

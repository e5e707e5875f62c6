import { z } from 'zod'
import type { Seconds } from '@/core/units'

/** Kinds of piece, by what plays. */
export const PIECE_KINDS = [
  'pads',
  'piano',
  'harp',
  'strings',
  'guitar',
  'music-box',
  'marimba',
  'keys',
  'woodwind',
  'percussion',
] as const
export type PieceKind = (typeof PIECE_KINDS)[number]

export const MOODS = ['calm', 'bright', 'hopeful', 'thoughtful', 'serious', 'dreamy'] as const
export type Mood = (typeof MOODS)[number]

/** Parts of a lesson that the piece follows: a title is played fully, a body sparsely, a close winds up. */
export const SECTION_KINDS = ['title', 'body', 'close'] as const
export type SectionKind = (typeof SECTION_KINDS)[number]

/** What an author asks of a piece that is made for a lesson. The same wish always gives the same piece. */
export const wishSchema = z.object({
  kind: z.enum(PIECE_KINDS),
  mood: z.enum(MOODS),
  /** Beats a minute; the piece may be up to 6 % off it, so that its last bar ends when the picture does. */
  tempo: z.number().min(50).max(140),
  /** How busy it is, 0..1. */
  density: z.number().min(0).max(1),
  /** The tonic, in semitones above C. */
  key: z.int().min(0).max(11),
  seed: z.int().min(0).max(999_999),
  /** In seconds, to the last sound. */
  length: z
    .number()
    .min(4)
    .max(3 * 3600),
  /** Where sections begin, in seconds; the first at 0. */
  sections: z
    .array(z.object({ kind: z.enum(SECTION_KINDS), start: z.number().min(0) }))
    .min(1)
    .max(500),
})
export type Wish = z.infer<typeof wishSchema>

export const KEY_NAMES = ['C', 'D♭', 'D', 'E♭', 'E', 'F', 'G♭', 'G', 'A♭', 'A', 'B♭', 'B'] as const

export const DEFAULT_WISH: Omit<Wish, 'length' | 'sections'> = {
  kind: 'pads',
  mood: 'calm',
  tempo: 72,
  density: 0.4,
  key: 2,
  seed: 1,
}

/** What is known of a piece that was made here. */
export const MADE_LICENCE = { source: 'Made by Yarn Step', licence: 'CC0 1.0', credit: '' }

/** A piece for a first lesson of about this length, whose steps are not known yet: a title, a body and a close. */
export function firstWish(kind: PieceKind, length: Seconds): Wish {
  const whole = Math.min(LONGEST_FIRST, Math.max(SHORTEST_FIRST, length))
  const sections = [
    { kind: 'title' as const, start: 0 },
    { kind: 'body' as const, start: 6 },
    { kind: 'close' as const, start: whole - 8 },
  ]
  return { ...DEFAULT_WISH, kind, length: whole, sections }
}

/** Shorter ones are laid round and round; longer ones are not listened to. */
const SHORTEST_FIRST: Seconds = 40
const LONGEST_FIRST: Seconds = 240

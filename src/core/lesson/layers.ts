import { z } from 'zod'

/**
 * What lies over a picture: words, something that points, something that covers, and a closer look. Each lasts from a mark
 * to a mark, or as long as the picture.
 */

const id = z.string().min(1).max(40)

/** A place in the frame: shares of its width and height, from the upper left. */
export const areaSchema = z.object({
  x: z.number().min(-1).max(2),
  y: z.number().min(-1).max(2),
  width: z.number().min(0.01).max(2),
  height: z.number().min(0.01).max(2),
})

const layer = {
  id,
  /** From when it is said; null: from the picture's beginning. */
  from: id.nullable(),
  /** Until it is said; null: until the picture that it began with ends. */
  to: id.nullable(),
  area: areaSchema,
}

export const WORDS_ROLES = ['title', 'lower line', 'label', 'caption'] as const
export const POINTER_SHAPES = ['ring', 'box', 'underline', 'arrow', 'number'] as const
export const CORNERS = ['upper left', 'upper right', 'lower left', 'lower right'] as const

/** Text, wrapped and made so small that it fits its area. */
const wordsSchema = z.object({
  ...layer,
  kind: z.literal('words'),
  role: z.enum(WORDS_ROLES),
  text: z.string().max(500),
})
const pointerSchema = z.object({
  ...layer,
  kind: z.literal('pointer'),
  shape: z.enum(POINTER_SHAPES),
  /** Where an arrow points to. */
  tip: z.enum(CORNERS),
  number: z.int().min(0).max(99),
})
/** Makes what is under it unreadable. */
const coverSchema = z.object({
  ...layer,
  kind: z.literal('cover'),
  way: z.enum(['solid', 'blocks']),
  /** Where its upper left corner is at moments of a recording, in the file's time, in order; between them it moves. */
  moves: z
    .array(z.object({ at: z.number().min(0), x: z.number().min(-1).max(2), y: z.number().min(-1).max(2) }))
    .max(200),
})
/** Its area grows until it fills the frame, and goes back; or the picture moves slowly for as long as this lasts. */
const closerSchema = z.object({
  ...layer,
  kind: z.literal('closer'),
  /** How long it takes to get there, and back, in seconds; null: as long as it lasts, without going back. */
  ease: z.number().min(0.1).max(60).nullable(),
  /** What fills the frame when it begins; null: the whole picture. */
  begins: areaSchema.nullable(),
})

export const layerSchema = z.discriminatedUnion('kind', [wordsSchema, pointerSchema, coverSchema, closerSchema])

export const EDGE_KINDS = ['cut', 'dissolve', 'plain', 'push'] as const
/** How a picture gives way to the next: at once, the one fading into the other, through plain ground, or pushed aside. */
export const edgeSchema = z.object({
  kind: z.enum(EDGE_KINDS),
  /** In seconds, half of it before the boundary and half after. */
  length: z.number().min(0.1).max(5),
})

/** How captions look where they are in the picture, and how fast they may be. */
export const captionLookSchema = z.object({
  size: z.enum(['small', 'usual', 'large']),
  place: z.enum(['lower', 'upper']),
  /** White letters on a dark box, or with a dark line around them. */
  ground: z.enum(['box', 'outline']),
  /** The most letters a second. */
  pace: z.number().min(10).max(25),
})

export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/)
/** How words and pointers look throughout a lesson. */
export const lookSchema = z.object({
  /** The letters of the interface, or those of a book. */
  letters: z.enum(['plain', 'book']),
  ink: colourSchema,
  ground: colourSchema,
  accent: colourSchema,
  /** Whether words stand on a box of the ground's colour. */
  boxed: z.boolean(),
  captions: captionLookSchema,
})

export type Area = z.infer<typeof areaSchema>
export type Layer = z.infer<typeof layerSchema>
export type WordsLayer = z.infer<typeof wordsSchema>
export type PointerLayer = z.infer<typeof pointerSchema>
export type CoverLayer = z.infer<typeof coverSchema>
export type CloserLayer = z.infer<typeof closerSchema>
export type Edge = z.infer<typeof edgeSchema>
export type CaptionLook = z.infer<typeof captionLookSchema>
export type Look = z.infer<typeof lookSchema>

export const CUT: Edge = { kind: 'cut', length: 0.5 }
export const DEFAULT_LOOK: Look = {
  letters: 'plain',
  ink: '#161d29',
  ground: '#ffffff',
  accent: '#b0204f',
  boxed: true,
  captions: { size: 'usual', place: 'lower', ground: 'box', pace: 17 },
}

const LASTS = { from: null, to: null }

/** As they are when they are put in. */
const NEW_LAYERS = {
  title: { kind: 'words', role: 'title', text: '', ...LASTS, area: { x: 0.1, y: 0.36, width: 0.8, height: 0.28 } },
  'lower line': {
    kind: 'words',
    role: 'lower line',
    text: '',
    ...LASTS,
    area: { x: 0.06, y: 0.8, width: 0.6, height: 0.12 },
  },
  caption: { kind: 'words', role: 'caption', text: '', ...LASTS, area: { x: 0.08, y: 0.76, width: 0.84, height: 0.2 } },
  label: { kind: 'words', role: 'label', text: '', ...LASTS, area: { x: 0.36, y: 0.44, width: 0.28, height: 0.1 } },
  ...Object.fromEntries(
    POINTER_SHAPES.map((shape) => [
      shape,
      {
        kind: 'pointer',
        shape,
        tip: 'upper right',
        number: 1,
        ...LASTS,
        area: {
          ring: { x: 0.4, y: 0.4, width: 0.2, height: 0.2 },
          box: { x: 0.4, y: 0.4, width: 0.2, height: 0.2 },
          underline: { x: 0.35, y: 0.5, width: 0.3, height: 0.04 },
          arrow: { x: 0.4, y: 0.4, width: 0.2, height: 0.25 },
          number: { x: 0.47, y: 0.45, width: 0.06, height: 0.1 },
        }[shape],
      },
    ]),
  ),
  cover: { kind: 'cover', way: 'solid', moves: [], ...LASTS, area: { x: 0.35, y: 0.45, width: 0.3, height: 0.1 } },
  closer: { kind: 'closer', ease: 0.8, begins: null, ...LASTS, area: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 } },
  // A tenth nearer over a whole step is as much as one feels rather than sees.
  'slow move': {
    kind: 'closer',
    ease: null,
    begins: null,
    ...LASTS,
    area: { x: 0.06, y: 0.06, width: 0.88, height: 0.88 },
  },
} as Record<LayerName, object>

/** A layer as it is when it is put in. */
export const newLayer = (id: string, name: LayerName): Layer => layerSchema.parse({ ...NEW_LAYERS[name], id })

export type LayerName =
  (typeof WORDS_ROLES)[number] | (typeof POINTER_SHAPES)[number] | 'cover' | 'closer' | 'slow move'

/** What an author calls it. */
export const layerName = (one: Layer): LayerName =>
  one.kind === 'words'
    ? one.role
    : one.kind === 'pointer'
      ? one.shape
      : one.kind === 'closer' && one.ease === null
        ? 'slow move'
        : one.kind

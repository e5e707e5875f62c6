import { z } from 'zod'

const on = z.boolean()

/** What is done to a voice before it is mixed. Everything can be off; the take itself never changes. */
export const cleanUpSchema = z.object({
  /** Room noise, by a neural suppressor; `amount` 1 leaves none of what it finds. */
  noise: z.object({ on, amount: z.number().min(0).max(1) }),
  /** Steady hiss, by the room's own noise, `amount` dB at most; and hum of the mains. */
  hiss: z.object({ on, amount: z.number().min(3).max(30) }),
  /** Everything below so many Hz. */
  rumble: z.object({ on, below: z.number().min(40).max(160) }),
  /** Three bands in dB: body around 160 Hz, clearness around 3 kHz, air from 9 kHz. */
  tone: z.object({
    on,
    body: z.number().min(-12).max(12),
    clearness: z.number().min(-12).max(12),
    air: z.number().min(-12).max(12),
  }),
  /** Sharp s sounds, by so many dB at most. */
  sibilance: z.object({ on, amount: z.number().min(2).max(15) }),
  /** Puffs of breath on p and b. */
  plosives: z.object({ on }),
  clicks: z.object({ on }),
  /** Clipped peaks are drawn round again. */
  clipping: z.object({ on }),
  /** Evens out loud and soft sentences; 1 makes them all alike. */
  levelling: z.object({ on, amount: z.number().min(0).max(1) }),
})
export type CleanUp = z.infer<typeof cleanUpSchema>
export type CleanUpPart = keyof CleanUp

export const NO_CLEAN_UP: CleanUp = {
  noise: { on: false, amount: 0.95 },
  hiss: { on: false, amount: 12 },
  rumble: { on: false, below: 80 },
  tone: { on: false, body: 0, clearness: 2, air: 1 },
  sibilance: { on: false, amount: 6 },
  plosives: { on: false },
  clicks: { on: false },
  clipping: { on: false },
  levelling: { on: false, amount: 0.5 },
}

/** What suits most voices in most rooms. */
export const USUAL_CLEAN_UP: CleanUp = {
  ...NO_CLEAN_UP,
  noise: { on: true, amount: 0.95 },
  rumble: { on: true, below: 80 },
  plosives: { on: true },
  levelling: { on: true, amount: 0.5 },
}

export const CLEAN_UP_PARTS = Object.keys(NO_CLEAN_UP) as CleanUpPart[]

export const isActive = (cleanUp: CleanUp): boolean => CLEAN_UP_PARTS.some((part) => cleanUp[part].on)

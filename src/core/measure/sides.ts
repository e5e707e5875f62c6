import type { Decibels } from '@/core/units'
import { say } from '@/messages/say'

/** What is wrong with the two channels of a sound, where something is. */
export type SidesFault = 'left-only' | 'right-only' | 'opposite'

/** What an author should know of it. */
export const sidesNote = (fault: SidesFault): string =>
  say(
    ({ 'left-only': 'measured.leftOnly', 'right-only': 'measured.rightOnly', opposite: 'measured.opposite' } as const)[
      fault
    ],
  )

export interface SidesMeter {
  push(left: Float32Array, right: Float32Array): void
  fault(): SidesFault | null
}

/** So far below the other a channel only has the noise of its socket. */
const ALONE: Decibels = 40
/** Correlation from which on both channels are the same upside down; wide music comes to -.5 at most. */
const OPPOSITE = -0.95

/**
 * Finds a voice that was recorded on one side only, or with the wires of one side swapped so that it vanishes where both sides
 * are added.
 */
export function createSidesMeter(): SidesMeter {
  let [left2, right2, both] = [0, 0, 0]
  return {
    push(left, right) {
      for (let i = 0; i < left.length; i++) {
        const [l, r] = [left[i]!, right[i]!]
        left2 += l * l
        right2 += r * r
        both += l * r
      }
    },
    fault() {
      const ratio = 10 ** (ALONE / 10)
      if (left2 === 0 && right2 === 0) return null
      if (left2 > right2 * ratio) return 'left-only'
      if (right2 > left2 * ratio) return 'right-only'
      return both / Math.sqrt(left2 * right2) < OPPOSITE ? 'opposite' : null
    },
  }
}

/** The one sound that both sides should have had. */
export function mended(fault: SidesFault, left: Float32Array, right: Float32Array): Float32Array {
  if (fault === 'left-only') return left
  if (fault === 'right-only') return right
  return left.map((value, i) => (value - right[i]!) / 2)
}

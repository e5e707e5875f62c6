import { say } from '@/messages/say'
import type { Messages } from '@/messages/words'

/** Words of this product and of the trade: each is explained in one sentence to somebody who teaches. */
export type Term = keyof Messages['terms']

/** A clearance in plain words. */
export function plainClearance(clearance: number): string {
  if (clearance < 9) return say('parts.theMusicCompetesWith')
  if (clearance < 14) return say('parts.musicYouNotice')
  if (clearance < 20) return say('parts.clearlyUnderTheVoice')
  if (clearance < 26) return say('parts.farUnderTheVoice')
  return say('parts.barelyThere')
}

import type { Visit } from './visit'

/** How a page tells whoever keeps it how far somebody has come. */
export interface Report {
  /** What is known of earlier visits to a lesson of this length. */
  begin(length: number): Promise<Earlier>
  /** Where they are, what they have been played in all visits, and how much of it that is (0..1). */
  tell(visit: Visit, share: number): void
  /** It has been watched; said once. */
  complete(): void
  end(): void
}

export interface Earlier extends Visit {
  isComplete: boolean
  /** How much of it was told as seen, 0..1: it never becomes less. */
  share: number
  /** Where the course site wants to go on when the lesson is over. */
  returnTo?: string
  /** Whoever counts visits does not count this one: it was over already, or another page has it. */
  isUncounted?: boolean
  /** Somebody has asked for no sound. */
  isSilent?: boolean
}

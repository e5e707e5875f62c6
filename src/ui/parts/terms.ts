/** Words of this product and of the trade, each explained in one sentence to somebody who teaches. */
export const TERMS = {
  clearance:
    'How much softer the music is than the voice while somebody speaks. 16 LU is clearly softer; a larger number is softer still.',
  swell:
    'How far the music comes up in pauses: it stays so much softer than the voice usually is. A smaller number is louder.',
  pause: 'Silence shorter than this is part of speaking, and the music stays down; in longer ones it comes up.',
  slope: 'How quickly the music goes up and down. Slow moves are not noticed; quick ones keep closer to the voice.',
  pocket: 'A small dip in just those tones of the music that make this voice easy to understand, only while it speaks.',
  lufs: 'Loudness as people hear it over the whole lesson. Video sites ask for about −16.',
  truePeak: 'The highest peak of the sound. It stays below 0, so that nothing crackles.',
  corridor: 'The share of spoken time in which the music is as far under the voice as was asked for, 3 LU up or down.',
  masked: 'The share of spoken time in which the music covers the voice, and words are hard to understand.',
  lost: 'The share of spoken time in which the music is too soft to be heard at all.',
  bumps:
    'How often the music goes down and up again within three seconds while somebody speaks. Up to about one a minute is not noticed.',
  standIn: 'A computer voice reads this step until you record it yourself. The timing carries over.',
  under: 'How much softer the music was than the voice, measured in the finished file.',
} as const

export type Term = keyof typeof TERMS

/** A clearance in plain words. */
export function plainClearance(clearance: number): string {
  if (clearance < 9) return 'the music competes with the voice'
  if (clearance < 14) return 'music you notice'
  if (clearance < 20) return 'clearly under the voice'
  if (clearance < 26) return 'far under the voice'
  return 'barely there'
}

/** Arguments for ffmpeg. At this rate its tools for lower ones cost time and gain nothing (docs/figures.md). */
export const AAC: readonly string[] = [
  ...['-c:a', 'aac', '-b:a', '192k'],
  ...['-aac_coder', 'fast', '-aac_is', '0', '-aac_pns', '0', '-aac_tns', '0'],
]

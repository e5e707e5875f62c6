/** What can be made of a lesson: all of it, its sound alone, or its voice alone in lesson time. */
export const EXPORT_KINDS = ['video', 'sound', 'voice-wav', 'voice-flac'] as const
export type ExportKind = (typeof EXPORT_KINDS)[number]

/** Ending and media type of each kind's file. */
export const EXPORT_FILES: Record<ExportKind, { ending: string; type: string }> = {
  video: { ending: 'mp4', type: 'video/mp4' },
  sound: { ending: 'wav', type: 'audio/wav' },
  'voice-wav': { ending: 'wav', type: 'audio/wav' },
  'voice-flac': { ending: 'flac', type: 'audio/flac' },
}

import type { BalanceSheet } from '@/core/mix/balanceSheet'

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

/** A finished file of a lesson, or one in the making, as the page shows it. */
export interface ExportStatus {
  id: string
  /** The lesson's revision that it was made of. */
  revision: number
  kind: ExportKind
  state: 'waiting' | 'working' | 'done' | 'failed' | 'cancelled'
  /** 0..1 */
  progress: number
  error: string | null
  balance: BalanceSheet | null
  bytes: number | null
  createdAt: string
}

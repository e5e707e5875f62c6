import type { BalanceSheet } from '@/core/mix/balanceSheet'

/** A finished file of a lesson, or one in the making, as the page shows it. */
export interface ExportStatus {
  id: string
  /** The lesson's revision that it was made of. */
  revision: number
  kind: 'video' | 'sound'
  state: 'waiting' | 'working' | 'done' | 'failed' | 'cancelled'
  /** 0..1 */
  progress: number
  error: string | null
  balance: BalanceSheet | null
  bytes: number | null
  createdAt: string
}

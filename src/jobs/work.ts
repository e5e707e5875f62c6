import type { MediaInfo } from '@/core/messages/media'
import type { JobResult } from '@/core/messages/job'
import type { ComputationKind } from '@/core/messages/jobInput'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { readCopy, type SavedCopy } from '@/media/archive'
import { importMedia } from '@/media/import/import'
import { makeExport, type ExportWork } from './makeExport'
import { compute, type ComputeWork } from './compute'
import { mediaStore } from './places'
import type { WorkOptions } from './workOptions'

/**
 * What jobs have done that takes long: it knows files, and of the database only where files are written down, so that it can
 * be done in a thread of its own.
 */

export interface Work {
  compute: { input: ComputeWork; result: JobResult<ComputationKind> }
  export: { input: ExportWork; result: BalanceSheet | null }
  /** A file brought in. */
  import: { input: { path: string; name: string }; result: MediaInfo }
  /** A saved copy of a lesson or a course. */
  open: { input: { path: string }; result: SavedCopy }
}
export type WorkName = keyof Work

export const WORK: { [N in WorkName]: (input: Work[N]['input'], options: WorkOptions) => Promise<Work[N]['result']> } =
  {
    compute,
    export: makeExport,
    import: ({ path, name }, options) => importMedia(mediaStore(), path, name, options),
    open: ({ path }, options) => readCopy(path, mediaStore(), options),
  }

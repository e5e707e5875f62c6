import type { ExportStatus } from '@/core/messages/job'

/** A lesson of a course, and its finished files, newest first. */
export interface LessonExports {
  id: string
  title: string
  exports: ExportStatus[]
}

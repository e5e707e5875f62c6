import { rm } from 'node:fs/promises'
import { deleteExport, loadExport, updateExport } from '@/db/exports'
import { exportFile } from '@/jobs/places'
import { route } from '../../answer'

/** Cancels one in the making (its worker sees it within a moment), or removes a finished one. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  const { state, kind } = await loadExport(id)
  if (state === 'waiting' || state === 'working') await updateExport(id, { state: 'cancelled' })
  else {
    await rm(exportFile(id, kind), { force: true })
    await deleteExport(id)
  }
  return Response.json({ ok: true })
})

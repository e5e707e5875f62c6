import { deleteExport, loadExport, updateExport } from '@/db/exports'
import { exportObject, objects } from '@/jobs/places'
import { route } from '../../answer'

/** Cancels one in the making (its worker sees it within a moment), or removes a finished one. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  const { state, kind } = await loadExport(id)
  if (state === 'waiting' || state === 'working') await updateExport(id, { state: 'cancelled' })
  else {
    await objects().remove(exportObject(id, kind))
    await deleteExport(id)
  }
  return Response.json({ ok: true })
})

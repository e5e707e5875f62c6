import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { createImport } from '@/db/imports'
import { loadRecording, updateRecording } from '@/db/recordings'
import { recordingsFolder, uploadsFolder } from '@/jobs/places'
import { sendJob } from '@/jobs/queue'
import { HOUSE_RATE } from '@/core/units'
import { finishPicture, finishVoice, recordingFile } from '@/media/recordings'
import { route } from '../../../answer'

/** All pieces are there: the recording becomes a file and is imported. Safe to repeat. */
export const POST = route<{ id: string }>(async (_request, { id }) => {
  const { kind, state, importId, details, createdAt } = await loadRecording(id)
  if (state !== 'open') return Response.json({ importId })
  const [path, out] = [recordingFile(recordingsFolder(), id), join(uploadsFolder(), id)]
  await mkdir(uploadsFolder(), { recursive: true })
  if (kind === 'picture') await finishPicture(path, out)
  else await finishVoice(path, details.rate ?? HOUSE_RATE, out)
  const time = createdAt.toISOString().slice(0, 16).replace('T', ' ').replace(':', '.')
  const name = kind === 'picture' ? `Recorded ${time}.${details.extension}` : `Recorded ${time}.wav`
  await createImport({ id, name, purpose: 'media', courseId: null })
  await updateRecording(id, { state: 'finished', importId: id })
  await sendJob('import', id)
  return Response.json({ importId: id })
})

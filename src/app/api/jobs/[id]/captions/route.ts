import { captionsObject } from '@/jobs/places'
import { loadJob } from '@/db/jobs'
import { route } from '../../../answer'
import { sendObject } from '../../../sendObject'

/** The captions of a finished video, read out of it: browsers show none that lie in an MP4. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  await loadJob(id, 'export')
  return sendObject(request, captionsObject(id), { 'content-type': 'text/vtt; charset=utf-8' })
})

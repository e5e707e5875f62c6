import { z } from 'zod'
import { cutText } from '@/core/text'
import { mediaStore } from '@/jobs/places'
import { exportSound } from '@/media/import/soundFile'
import { readQuery, route } from '../../../answer'
import { downloadHeaders, streamOf } from '../../../download'

const querySchema = z.object({
  from: z.coerce.number().min(0),
  to: z.coerce.number().positive(),
  format: z.enum(['wav', 'flac']),
  name: z.string().default('Take'),
})

/** A part of a sound as a file to work on elsewhere: 24 bit, sample for sample. */
export const GET = route<{ hash: string }>(async (request, { hash }) => {
  const { from, to, format, name } = readQuery(request, querySchema)
  const sound = await exportSound(mediaStore(), hash, { from, to }, format)
  return new Response(streamOf(sound), {
    headers: downloadHeaders(`${cutText(name, 200)}.${format}`, `audio/${format}`),
  })
})

import { z } from 'zod'
import { UserError } from '@/core/userError'
import { mediaStore } from '@/jobs/places'
import { exportSound } from '@/media/soundFile'
import { route } from '../../../answer'
import { downloadHeaders, streamOf } from '../../../download'

const querySchema = z.object({
  from: z.coerce.number().min(0),
  to: z.coerce.number().positive(),
  format: z.enum(['wav', 'flac']),
  name: z.string().max(200).default('Take'),
})

/** A part of a sound as a file to work on elsewhere: 24 bit, sample for sample. */
export const GET = route<{ hash: string }>(async (request, { hash }) => {
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!query.success || !/^[0-9a-f]{64}$/.test(hash))
    throw new UserError('This is not how a take is asked for. Reload the page.')
  const { from, to, format, name } = query.data
  const sound = await exportSound(mediaStore(), hash, { from, to }, format)
  return new Response(streamOf(sound), { headers: downloadHeaders(`${name}.${format}`, `audio/${format}`) })
})

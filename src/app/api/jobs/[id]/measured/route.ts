import { fileNameOf } from '@/core/delivery/outputs'
import { measuredAsHtml } from '@/core/delivery/measured'
import { NotThere } from '@/core/userError'
import { loadJob } from '@/db/jobs'
import { loadRevision } from '@/db/lessons'
import { say } from '@/messages/say'
import { route } from '../../../answer'
import { downloadHeaders } from '../../../download'

/** What was measured in a finished file: a page to be read, or `?as=json` for programs. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const { input, result } = await loadJob(id, 'export')
  if (!result?.balance) throw new NotThere(say('server.nothingWasMeasuredIn'))
  const { title } = await loadRevision(input.lesson, input.revision)
  const file = fileNameOf(title, input.file)
  if (new URL(request.url).searchParams.get('as') === 'json')
    return Response.json(
      { lesson: title, file, ...result.balance },
      { headers: downloadHeaders(`${title}, measured.json`, 'application/json') },
    )
  return new Response(measuredAsHtml(title, [{ lesson: title, file, balance: result.balance }]), {
    headers: downloadHeaders(`${title}, measured.html`, 'text/html; charset=utf-8'),
  })
})

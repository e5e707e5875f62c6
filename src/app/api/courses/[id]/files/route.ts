import { measuredAsHtml, type MeasuredFile } from '@/core/delivery/measured'
import { uniqueNames } from '@/core/course/fileNames'
import { fileNameOf } from '@/core/delivery/outputs'
import { NotThere, UserError } from '@/core/userError'
import { courseTitle } from '@/db/courses'
import { loadJob } from '@/db/jobs'
import { summaries } from '@/db/summaries'
import { exportObject, objects } from '@/jobs/places'
import { zipOf } from '@/media/writeZip'
import { say } from '@/messages/say'
import { route } from '../../../answer'
import { downloadHeaders, streamOf } from '../../../download'

const MOST = 1000

/** Finished files of a course in one zip (`?job=…&job=…`), with what was measured in them as JSON and as a page. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const course = await courseTitle(id)
  const ids = [...new Set(new URL(request.url).searchParams.getAll('job'))].slice(0, MOST)
  if (ids.length === 0) throw new UserError(say('server.chooseAtLeastOne'))
  const titles = new Map((await summaries(id)).map((one) => [one.id, one.summary?.title]))
  const made = await Promise.all(
    ids.map(async (job) => {
      const { input, result } = await loadJob(job, 'export')
      const title = titles.get(input.lesson)
      if (title === undefined) throw new NotThere(say('server.fileOfAnotherCourse'))
      if (!result) throw new UserError(say('server.fileNotFinished'))
      return { object: exportObject(job, input.file), title, file: fileNameOf(title, input.file), result }
    }),
  )
  const names = uniqueNames(made.map(({ file }) => file))
  const measured = made.map(({ title, result }, i): MeasuredFile => ({
    lesson: title,
    file: names[i]!,
    balance: result.balance,
  }))
  const zip = zipOf([
    ...made.map(({ object }, i) => ({ name: names[i]!, content: () => objects().open(object) })),
    { name: 'measured.json', content: JSON.stringify(measured, null, 1) },
    { name: 'measured.html', content: measuredAsHtml(course, measured) },
  ])
  return new Response(streamOf(zip), { headers: downloadHeaders(`${course}.zip`, 'application/zip') })
})

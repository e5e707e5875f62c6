import type { Readable } from 'node:stream'
import yazl from 'yazl'
import { courseTableAsHtml, type MeasuredFile } from '@/core/course/courseTable'
import { uniqueNames } from '@/core/course/fileNames'
import { fileNameOf } from '@/core/delivery/outputs'
import { UserError } from '@/core/userError'
import { courseTitle } from '@/db/courses'
import { loadJob } from '@/db/jobs'
import { loadRevision } from '@/db/lessons'
import { exportObject, objects } from '@/jobs/places'
import { route } from '../../../answer'
import { downloadHeaders, streamOf } from '../../../download'

const MOST = 1000

/** Finished files of a course in one zip (`?job=…&job=…`), with what was measured in them as JSON and as a page. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const course = await courseTitle(id)
  const ids = [...new Set(new URL(request.url).searchParams.getAll('job'))].slice(0, MOST)
  if (ids.length === 0) throw new UserError('Choose at least one finished file.')
  const made = await Promise.all(
    ids.map(async (job) => {
      const { input, result } = await loadJob(job, 'export')
      if (!result) throw new UserError('One of these files is not finished yet. Wait until it is, and try again.')
      const { title } = await loadRevision(input.lesson, input.revision)
      return { object: exportObject(job, input.file), title, name: fileNameOf(title, input.file), result }
    }),
  )
  const names = uniqueNames(made.map(({ name }) => name))
  const measured = made.map(({ title, result }, i): MeasuredFile => ({
    lesson: title,
    file: names[i]!,
    balance: result.balance,
  }))
  const zip = new yazl.ZipFile()
  for (const [i, { object }] of made.entries())
    // One after the other, as the zip is read.
    zip.addReadStreamLazy(names[i]!, { compress: false }, (give) => {
      objects()
        .open(object)
        .then(
          (bytes) => give(null, bytes),
          (error: Error) => give(error, null as never),
        )
    })
  zip.addBuffer(Buffer.from(JSON.stringify(measured, null, 1)), 'measured.json')
  zip.addBuffer(Buffer.from(courseTableAsHtml(course, measured)), 'measured.html')
  zip.end()
  const stream = zip.outputStream as Readable
  zip.on('error', (error) => stream.destroy(error as Error))
  return new Response(streamOf(stream), { headers: downloadHeaders(`${course}.zip`, 'application/zip') })
})

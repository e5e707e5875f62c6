import { createHash } from 'node:crypto'
import { mkdir, readFile, stat, writeFile } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { z } from 'zod'
import { measuredAsHtml, type MeasuredFile } from '@/core/delivery/measured'
import { uniqueNames } from '@/core/course/fileNames'
import { fileNameOf, OUTPUT_NAMES, outputOf, type OutputName } from '@/core/delivery/outputs'
import { documentOf } from '@/core/lesson/telling'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { UserError } from '@/core/userError'
import { makeOutput } from '@/media/delivery/makeOutput'
import { assertCanBeMade } from '@/media/lessonMedia'
import { showProgress } from '../progress'
import { withArchive } from '../workspace'

interface CourseOptions {
  outDir: string
  make: string[]
  title: string
  language?: string
}

/** What was made the last time, of what, by its file. */
const madeSchema = z.record(z.string(), z.object({ of: z.string(), balance: z.custom<BalanceSheet>().nullable() }))
const LIST = 'made.json'

/** Makes files of several lessons into one folder; what has not changed since the last time stays as it is. */
export async function course(archives: string[], { outDir, make, title, language }: CourseOptions) {
  const names = make.map(outputNamed)
  await mkdir(outDir, { recursive: true })
  const list = join(outDir, LIST)
  const before = await readFile(list, 'utf8').then(
    (text) => madeSchema.parse(JSON.parse(text)),
    () => ({}) as z.infer<typeof madeSchema>,
  )
  const made: z.infer<typeof madeSchema> = {}
  const measured: MeasuredFile[] = []
  const taken: string[] = []
  let count = 0
  for (const archive of archives)
    await withArchive(archive, language, async ({ lesson, store, assets, sounds }) => {
      await assertCanBeMade(lesson, store)
      for (const name of names) {
        taken.push(fileNameOf(lesson.title, name))
        const file = uniqueNames(taken).at(-1)!
        const of = digestOf([documentOf(lesson), lesson.language, name])
        const isThere = await stat(join(outDir, file)).then(
          () => true,
          () => false,
        )
        let balance = before[file]?.balance ?? null
        if (!isThere || before[file]?.of !== of) {
          process.stderr.write(`${basename(archive)}: ${file}\n`)
          const found = { lesson, store, sounds, assets }
          balance = await makeOutput(found, outputOf(name), join(outDir, file), { onProgress: showProgress() })
          count++
        }
        made[file] = { of, balance }
        measured.push({ lesson: lesson.title, file, balance })
        // After each file: what is broken off goes on from there.
        await writeFile(list, JSON.stringify({ ...before, ...made }, null, 1))
      }
    })
  await writeFile(join(outDir, 'measured.json'), JSON.stringify(measured, null, 1))
  await writeFile(join(outDir, 'measured.html'), measuredAsHtml(title, measured))
  return { made: count, unchanged: measured.length - count, files: measured }
}

function outputNamed(name: string): OutputName {
  const found = OUTPUT_NAMES.find((one) => one === name)
  if (!found) throw new UserError(`"${name}" can't be made. Choose from ${OUTPUT_NAMES.join(', ')}.`)
  return found
}

const digestOf = (value: unknown): string => createHash('sha256').update(JSON.stringify(value)).digest('hex')

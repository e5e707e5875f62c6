import { writeFile } from 'node:fs/promises'
import { basename, extname, resolve } from 'node:path'
import { measuredAsHtml } from '@/core/delivery/measured'
import { OUTPUTS, type Output, type OutputName } from '@/core/delivery/outputs'
import { partBetween, secondsOf, type Part } from '@/core/delivery/part'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { layoutLesson } from '@/core/lesson/layout'
import type { Timeline } from '@/core/lesson/timeline'
import { UserError } from '@/core/userError'
import { makeOutput } from '@/media/delivery/makeOutput'
import { renderPicture } from '@/media/delivery/renderPicture'
import { assertCanBeMade } from '@/media/lessonMedia'
import { openAssets } from '@/media/store/assets'
import { folderObjects } from '@/media/store/folderObjects'
import { byEnding } from '../byEnding'
import { showProgress } from '../progress'
import { withArchive } from '../workspace'

interface RenderWishes {
  out: string
  preset?: string
  step?: number
  from?: number
  to?: number
  cache?: string
  language?: string
  sheet?: string
}

const WAYS: Record<string, OutputName | 'picture'> = {
  '.mp4': 'video',
  '.webm': 'webm',
  '.wav': 'sound',
  '.flac': 'flac',
  '.mp3': 'mp3',
  '.m4a': 'm4a',
  '.opus': 'opus',
  '.png': 'picture',
  '.gif': 'picture',
  '.webp': 'picture',
}

/** Presets are named by where a video goes. */
const PRESETS: Record<string, OutputName> = {
  'course-site': 'video',
  'video-site': 'video-site',
  phone: 'phone',
  archive: 'archive',
  'without-music': 'without-music',
  'captions-in-picture': 'captions-in-picture',
}

/** Makes a lesson's video, its sound, or a picture of it, by the ending of the file; all of it or a part. */
export function render(archive: string, wishes: RenderWishes) {
  const { out, cache, language } = wishes
  const way = byEnding(out, WAYS)
  const output = way === 'picture' ? null : presetOf(wishes.preset, way, out)
  if (!output && wishes.sheet !== undefined) throw new UserError(`Nothing is measured in a picture: ${out}.`)
  const writeSheet = wishes.sheet === undefined ? null : sheetTo(wishes.sheet)
  return withArchive(archive, language, async ({ lesson, store, assets, sounds }) => {
    await assertCanBeMade(lesson, store)
    const kept = cache ? openAssets(folderObjects(resolve(cache))) : assets
    const timeline = layoutLesson(lesson)
    const part = partOf(wishes, timeline)
    const made = { lesson, store, sounds, assets: kept }
    if (!output) return renderPicture(made, part, extname(out).slice(1).toLowerCase() as 'png' | 'gif' | 'webp', out)
    const balance = await makeOutput(made, output, out, { onProgress: showProgress(), part })
    await writeSheet?.(lesson.title, basename(out), balance)
    const steps = timeline.steps.map(({ step, start, end }) => ({ id: step.id, start, end }))
    if (!part) return { ...balance, steps }
    const { start: from, end: to } = secondsOf(part)
    return { ...balance, from, to }
  })
}

/** Writes what was measured, by the ending of the file. */
function sheetTo(path: string): (title: string, file: string, balance: BalanceSheet | null) => Promise<void> {
  const format = byEnding(path, { '.html': 'html', '.json': 'json' } as const)
  return async (title, file, balance) =>
    writeFile(
      path,
      format === 'json'
        ? JSON.stringify({ lesson: title, file, ...balance }, null, 1)
        : measuredAsHtml(title, [{ lesson: title, file, balance }]),
    )
}

/** What a preset says of loudness and size, with the ending's format. */
function presetOf(preset: string | undefined, way: OutputName, out: string): Output {
  const named: Output = OUTPUTS[way]
  if (preset === undefined) return named
  const wished: Output | undefined = PRESETS[preset] && OUTPUTS[PRESETS[preset]]
  if (wished?.kind !== 'video')
    throw new UserError(`There is no preset "${preset}". Choose one of ${Object.keys(PRESETS).join(', ')}.`)
  if (named.kind === 'sound') return { ...named, loudness: wished.loudness }
  if (named.kind !== 'video') throw new UserError(`A preset is for videos and sounds: ${out}.`)
  if (named.container === 'webm' && wished.size === 'small')
    throw new UserError('The preset for phones makes an MP4. Let the name of the file end in .mp4.')
  return { ...wished, container: named.container }
}

function partOf({ step, from, to }: RenderWishes, timeline: Timeline): Part | undefined {
  if (step !== undefined) {
    if (from !== undefined || to !== undefined)
      throw new UserError('Choose either a step or a stretch of time (--from and --to).')
    const span = timeline.steps[step - 1]
    if (!Number.isInteger(step) || !span)
      throw new UserError(`This lesson has ${timeline.steps.length} steps; there is none with the number ${step}.`)
    return partBetween(span.start, span.end, timeline)
  }
  if (from === undefined && to === undefined) return undefined
  const [start, end] = [from ?? 0, to ?? timeline.length]
  if (start < 0 || start >= timeline.length || end <= start)
    throw new UserError(
      `From ${start} s to ${end} s is no part of this lesson: it lasts ${timeline.length.toFixed(1)} s.`,
    )
  return partBetween(start, end, timeline)
}

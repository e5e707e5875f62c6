import { mkdtemp, rename, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Writable } from 'node:stream'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson, type Timeline } from '@/core/lesson/layout'
import { lessonFrames, planPictures, samplesOfFrames } from '@/core/lesson/picturePlan'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { planMix, type AnalysisOf, type PlannedMix } from '@/core/mix/plan'
import { UserError } from '@/core/userError'
import { FRAME_RATE } from '@/core/units'
import { inputOf } from '../ffmpeg'
import { encodeMixdown, measureFinished, type RenderOptions, type StemLevels } from '../mixdown'
import { runProgram, writeTo } from '../process'
import { storeSource, type MediaStore } from '../store'
import { openPieceMaker } from './pieces'

const AAC = ['-c:a', 'aac', '-aac_coder', 'fast', '-b:a', '192k']
/** Ticks a second and a frame of the video's clock: whole numbers, so that no frame is ever early or late. */
const TIMESCALE = 15360
const TICKS = TIMESCALE / FRAME_RATE
/** Share of the work that the sound is, for the progress shown. */
const SOUND_SHARE = 0.55

export interface Finished {
  balance: BalanceSheet
  timeline: Timeline
}

/** Makes the finished video of a lesson (MP4: H.264 + AAC, 1920 x 1080, 30 frames a second) and measures it. */
export async function renderVideo(
  lesson: Lesson,
  store: MediaStore,
  analysisOf: AnalysisOf,
  cache: string,
  out: string,
  { signal, onProgress }: RenderOptions = {},
): Promise<Finished> {
  const { timeline, planned } = planFinished(lesson, analysisOf)
  const frames = lessonFrames(timeline)
  const work = await mkdtemp(join(tmpdir(), 'yarn-step-'))
  const sounds = storeSource(store)
  try {
    const soundFile = join(work, 'sound.m4a')
    const report = (share: number) => onProgress?.(Math.min(1, share))
    const stems = await encodeMixdown(planned, sounds.source, samplesOfFrames(frames), [...AAC, soundFile], {
      signal,
      onProgress: (share) => report(share * SOUND_SHARE),
    })
    const draft = join(work, 'video.mp4')
    await joinPieces(timeline, store, cache, soundFile, draft, {
      signal,
      onProgress: (share) => report(SOUND_SHARE + share * (0.95 - SOUND_SHARE)),
    })
    const balance = await measureFinished(draft, 'mov', planned, stems, lesson.targets.clearance, frames / FRAME_RATE)
    await moveFile(draft, out)
    report(1)
    return { balance, timeline }
  } finally {
    await sounds.close()
    await rm(work, { recursive: true, force: true })
  }
}

/** Makes the lesson's sound alone as a 24-bit WAV file and measures it. */
export async function renderSound(
  lesson: Lesson,
  store: MediaStore,
  analysisOf: AnalysisOf,
  out: string,
  options: RenderOptions = {},
): Promise<Finished> {
  const { timeline, planned } = planFinished(lesson, analysisOf)
  const sounds = storeSource(store)
  const draft = `${out}.part.wav`
  try {
    const stems: StemLevels = await encodeMixdown(
      planned,
      sounds.source,
      planned.plan.length,
      ['-c:a', 'pcm_s24le', draft],
      options,
    )
    const balance = await measureFinished(draft, 'wav', planned, stems, lesson.targets.clearance, null)
    await rename(draft, out)
    return { balance, timeline }
  } finally {
    await sounds.close()
    await rm(draft, { force: true })
  }
}

function planFinished(lesson: Lesson, analysisOf: AnalysisOf): { timeline: Timeline; planned: PlannedMix } {
  const timeline = layoutLesson(lesson)
  if (timeline.length === 0)
    throw new UserError('This lesson has no steps yet: there is nothing to make. Add a picture first.')
  return { timeline, planned: planMix(lesson, timeline, analysisOf) }
}

async function joinPieces(
  timeline: Timeline,
  store: MediaStore,
  cache: string,
  soundFile: string,
  out: string,
  { signal, onProgress }: RenderOptions,
): Promise<void> {
  const pieces = await openPieceMaker(store, cache, signal)
  const runs = planPictures(timeline)
  const feed = async (input: Writable) => {
    for (const [i, run] of runs.entries()) {
      for await (const part of pieces.streamOf(run)) {
        signal?.throwIfAborted()
        await writeTo(input, part)
      }
      onProgress?.((i + 1) / runs.length)
    }
  }
  const args = [
    '-v',
    'error',
    '-y',
    '-framerate',
    String(FRAME_RATE),
    '-f',
    'h264',
    '-i',
    'pipe:0',
    ...inputOf(soundFile, 'mov'),
    '-map',
    '0:v',
    '-map',
    '1:a',
    '-c',
    'copy',
    '-bsf:v',
    `setts=ts=N*${TICKS}:duration=${TICKS}`,
    '-video_track_timescale',
    String(TIMESCALE),
    '-movflags',
    '+faststart',
    out,
  ]
  await runProgram('ffmpeg', args, { limit: 6 * 3600, signal, feed })
}

/** The work folder may be on another file system. */
async function moveFile(from: string, to: string): Promise<void> {
  await rename(from, to).catch(async () => {
    const { copyFile } = await import('node:fs/promises')
    await copyFile(from, `${to}.part`)
    await rename(`${to}.part`, to)
  })
}

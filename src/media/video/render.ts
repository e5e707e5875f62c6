import { rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Writable } from 'node:stream'
import { chaptersOf } from '@/core/captions/chapters'
import { languageCode } from '@/core/captions/languageCode'
import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { writeVtt } from '@/core/formats/captionFiles'
import { writeMetadata } from '@/core/formats/chapterFiles'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding } from '@/core/lesson/sounding'
import type { Timeline } from '@/core/lesson/timeline'
import { lessonFrames, planShots, samplesOfFrames, type Shot } from '@/core/picture/shots'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { planMix } from '@/core/mix/plan'
import type { MixPlan, PlannedMix } from '@/core/mix/mixPlan'
import { RENDERER_EDITION } from '@/core/mix/renderer'
import type { HeardWords } from '@/core/narration/words/stepWords'
import { UserError } from '@/core/userError'
import { FRAME_RATE, type SampleIndex } from '@/core/units'
import { bytesOf, ffmpegVersion, inputOf } from '../ffmpeg'
import type { LessonSounds } from '../lessonMedia'
import { encodeMixdown, measureFinished, renderMixdown, type RenderOptions, type StemLevels } from '../mixdown'
import { CODING_MEMORY, runProgram, writeTo } from '../process'
import type { Assets, Recipe } from '../store/assets'
import { storeSource, type MediaStore } from '../store/store'
import { withWorkFolder } from '../store/workFolder'
import { openPieceMaker, type PieceMaker } from './pieces'

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

export interface VideoOptions extends RenderOptions {
  /** The words of its takes, for captions that can be switched on; none without it. */
  heard?: HeardWords
}

/** Makes the finished video of a lesson (MP4: H.264 + AAC, 1920 x 1080, 30 frames a second) and measures it. */
export async function renderVideo(
  lesson: Lesson,
  store: MediaStore,
  sounds: LessonSounds,
  assets: Assets,
  out: string,
  { signal, onProgress, heard }: VideoOptions = {},
): Promise<Finished> {
  const { timeline, planned } = planFinished(lesson, sounds)
  const frames = lessonFrames(timeline)
  return withWorkFolder(async (work) => {
    const shots = planShots(timeline)
    const pieces = await openPieceMaker(lesson.look, store, assets, signal)
    const report = (share: number) => onProgress?.(Math.min(1, share))
    // The sound is made in this process, the pictures are coded by others: both at once.
    const [{ soundFile, stems }] = await Promise.all([
      codedSound(planned, samplesOfFrames(frames), store, assets, {
        signal,
        onProgress: (share) => report(share * SOUND_SHARE),
      }),
      pieces.prepare(shots),
    ])
    const draft = join(work, 'video.mp4')
    const texts = await writeTexts(lesson, timeline, heard, work)
    await joinPieces(shots, pieces, { soundFile, ...texts }, draft, {
      signal,
      onProgress: (share) => report(SOUND_SHARE + share * (0.95 - SOUND_SHARE)),
    })
    const balance = await measureFinished(draft, 'mov', planned, stems, frames / FRAME_RATE)
    await moveFile(draft, out)
    report(1)
    return { balance, timeline }
  })
}

/** The mix as AAC, and the levels of its stems; kept for as long as nothing that is heard changes. */
async function codedSound(
  planned: PlannedMix,
  length: SampleIndex,
  store: MediaStore,
  assets: Assets,
  options: RenderOptions,
): Promise<{ soundFile: string; stems: StemLevels }> {
  // What is kept is only as good as the code that made it.
  const edition = [AAC, RENDERER_EDITION, await ffmpegVersion()]
  const recipe = (extension: string): Recipe => ({
    kind: 'mix',
    edition,
    sources: mediaOfPlan(planned.plan),
    recipe: [length, planned.plan],
    extension,
  })
  const sounds = storeSource(store)
  try {
    let fresh: StemLevels | undefined
    const soundFile = await assets.file(recipe('m4a'), async (draft) => {
      fresh = await encodeMixdown(planned, sounds.source, length, [...AAC, draft], options)
    })
    const kept = await assets.bytes(recipe('f32'), async () => {
      fresh ??= await renderMixdown(planned, sounds.source, length, async () => {}, options)
      return Buffer.concat([fresh.voice, fresh.bed, fresh.bedRaw].map(bytesOf))
    })
    const levels = new Float32Array(kept.buffer.slice(kept.byteOffset, kept.byteOffset + kept.length))
    const part = (i: number) => levels.subarray((i * levels.length) / 3, ((i + 1) * levels.length) / 3)
    return { soundFile, stems: { voice: part(0), bed: part(1), bedRaw: part(2) } }
  } finally {
    await sounds.close()
  }
}

const mediaOfPlan = ({ clips }: MixPlan): string[] => [
  ...new Set(Object.values(clips).flatMap((track) => track.map(({ media }) => media))),
]

export function planFinished(
  lesson: Lesson,
  { soundOf, analysisOf }: LessonSounds,
): { timeline: Timeline; planned: PlannedMix } {
  const timeline = sounding(layoutLesson(lesson), soundOf)
  if (timeline.length === 0)
    throw new UserError('This lesson has no steps yet: there is nothing to make. Add a picture first.')
  return { timeline, planned: planMix(lesson, timeline, analysisOf) }
}

async function joinPieces(
  shots: readonly Shot[],
  pieces: PieceMaker,
  { soundFile, captions, metadata, language }: Texts & { soundFile: string },
  out: string,
  { signal, onProgress }: RenderOptions,
): Promise<void> {
  const feed = async (input: Writable) => {
    for (const [i, shot] of shots.entries()) {
      for await (const part of pieces.streamOf(shot)) {
        signal?.throwIfAborted()
        await writeTo(input, part)
      }
      onProgress?.((i + 1) / shots.length)
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
    ...inputOf(metadata, 'ffmetadata'),
    ...(captions ? inputOf(captions, 'webvtt') : []),
    ...['-map', '0:v', '-map', '1:a', ...(captions ? ['-map', '3:s'] : [])],
    ...['-map_metadata', '2', '-map_chapters', '2'],
    ...['-c', 'copy', ...(captions ? ['-c:s', 'mov_text'] : [])],
    ...['v', 'a', 's'].flatMap((kind) => [`-metadata:s:${kind}`, `language=${language}`]),
    '-bsf:v',
    `setts=ts=N*${TICKS}:duration=${TICKS}`,
    '-video_track_timescale',
    String(TIMESCALE),
    '-movflags',
    '+faststart',
    out,
  ]
  await runProgram('ffmpeg', args, { memory: CODING_MEMORY, limit: 6 * 3600, signal, feed })
}

interface Texts {
  /** Files; null where nothing is said. */
  captions: string | null
  metadata: string
  /** Code of three letters. */
  language: string
}

/** Captions, and title and chapters, as files that go into the video. */
async function writeTexts(
  lesson: Lesson,
  timeline: Timeline,
  heard: HeardWords | undefined,
  work: string,
): Promise<Texts> {
  const metadata = join(work, 'metadata.txt')
  await writeFile(metadata, writeMetadata({ title: lesson.title }, chaptersOf(timeline)))
  const made = heard ? lessonCaptions(lesson, timeline, heard) : []
  const captions = made.length > 0 ? join(work, 'captions.vtt') : null
  if (captions) await writeFile(captions, writeVtt(made))
  return { captions, metadata, language: languageCode(lesson.language) }
}

/** The work folder may be on another file system. */
async function moveFile(from: string, to: string): Promise<void> {
  await rename(from, to).catch(async () => {
    const { copyFile } = await import('node:fs/promises')
    await copyFile(from, `${to}.part`)
    await rename(`${to}.part`, to)
  })
}

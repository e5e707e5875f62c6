import { rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Writable } from 'node:stream'
import { chaptersOf } from '@/core/captions/chapters'
import { languageCode } from '@/core/captions/languageCode'
import type { Caption } from '@/core/captions/captions'
import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { withCaptions } from '@/core/captions/overPictures'
import { writeSrt, writeVtt } from '@/core/formats/captionFiles'
import { writeMetadata } from '@/core/formats/chapterFiles'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding } from '@/core/lesson/sounding'
import type { Timeline } from '@/core/lesson/timeline'
import { planShots, type Shot } from '@/core/picture/shots'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { planMix } from '@/core/mix/plan'
import { saidIn } from '@/core/mix/said'
import type { MixPlan, PlannedMix } from '@/core/mix/mixPlan'
import {
  captionsWithin,
  chaptersWithin,
  levelsWithin,
  samplesOf,
  secondsOf,
  shotsWithin,
  wholeOf,
  type Part,
} from '@/core/delivery/part'
import { RENDERER_EDITION, type SampleRange } from '@/core/mix/renderer'
import type { HeardWords } from '@/core/narration/words/stepWords'
import { UserError } from '@/core/userError'
import type { Hertz } from '@/core/units'
import { say } from '@/messages/say'
import { AAC } from '../aac'
import { bytesOf, ffmpegVersion, inputOf } from '../ffmpeg'
import type { LessonSounds } from '../lessonMedia'
import { encodeMixdown, measureFinished, renderMixdown, type RenderOptions, type StemLevels } from '../mixdown'
import { CODING_MEMORY, runProgram, writeTo } from '../process'
import type { Assets, Recipe } from '../store/assets'
import { storeSource, type MediaStore } from '../store/store'
import { withWorkFolder } from '../store/workFolder'
import { openPieceMaker, type PieceMaker } from './pieces'
import { recode, type Recoding } from './recode'

/** Ticks a frame of the video's clock: a whole number, so that no frame is ever early or late. */
const TICKS = 512
/** Shares of the work, for the progress shown: the sound's, and what is done before it is coded otherwise. */
const SOUND_SHARE = 0.55
const RECODED_FROM = 0.4

export interface Finished {
  balance: BalanceSheet
  timeline: Timeline
}

export interface VideoOptions extends RenderOptions {
  /** The words of its takes: by them it is judged, and captions that can be switched on are made of them; none without it. */
  heard?: HeardWords
  /** Where its captions are: on a track of their own, or in the picture for good. */
  captions?: 'track' | 'picture'
  /** Only a part of it. */
  part?: Part
  /** Otherwise than as it is put together; null: as it is. */
  recoding?: Recoding | null
}

/**
 * Makes the finished video of a lesson and measures it: MP4 with H.264 and AAC, or what is coded from that.
 */
export async function renderVideo(
  lesson: Lesson,
  store: MediaStore,
  sounds: LessonSounds,
  assets: Assets,
  out: string,
  { signal, onProgress, heard, captions: place = 'track', part: asked, recoding = null }: VideoOptions = {},
): Promise<Finished> {
  const { timeline, planned } = planFinished(lesson, sounds, heard)
  const part = asked ?? wholeOf(timeline)
  const captions = heard ? lessonCaptions(lesson, timeline, heard) : []
  const shown = place === 'picture' ? withCaptions(timeline, captions, lesson.look.captions) : timeline
  return withWorkFolder(async (work) => {
    const shots = shotsWithin(planShots(shown), part)
    const pieces = await openPieceMaker(lesson.look, timeline.frame, store, assets, signal)
    const joined = recoding ? RECODED_FROM : 0.95
    const report = (share: number) => onProgress?.(Math.min(1, share))
    // The sound is made in this process, the pictures are coded by others: both at once.
    const [{ soundFile, stems }] = await Promise.all([
      codedSound(planned, samplesOf(part), store, assets, {
        signal,
        onProgress: (share) => report(share * SOUND_SHARE * joined),
      }),
      pieces.prepare(shots),
    ])
    const draft = join(work, 'video.mp4')
    const texts = await writeTexts(lesson, timeline, place === 'track' ? captions : [], part, work)
    await joinPieces(shots, pieces, { soundFile, ...texts }, part.rate, draft, {
      signal,
      onProgress: (share) => report(joined * (SOUND_SHARE + share * (1 - SOUND_SHARE))),
    })
    const { length } = secondsOf(part)
    const made = recoding
      ? await recode(draft, recoding, texts.vtt, work, length, {
          signal,
          onProgress: (share) => report(joined + share * (0.97 - joined)),
        })
      : { file: draft, demuxer: 'mov' }
    const levels = levelsWithin(planned.levels, part)
    const measure = () => measureFinished(made.file, made.demuxer, levels, stems, length)
    const balance = recoding ? await measure() : await keptBalance(planned, part, levels, assets, measure)
    await moveFile(made.file, out)
    report(1)
    return { balance, timeline }
  })
}

/** Raised when other levels of the stems are kept, or in another order. */
const LEVELS_EDITION = 2

/** The mix as AAC, and the levels of its stems; kept for as long as nothing that is heard changes. */
async function codedSound(
  planned: PlannedMix,
  range: SampleRange,
  store: MediaStore,
  assets: Assets,
  options: RenderOptions,
): Promise<{ soundFile: string; stems: StemLevels }> {
  const edition = await soundEdition()
  const recipe = (extension: string, ...more: number[]): Recipe => ({
    kind: 'mix',
    edition: [...edition, ...more],
    sources: mediaOfPlan(planned.plan),
    recipe: [range, planned.plan],
    extension,
  })
  const sounds = storeSource(store)
  try {
    let fresh: StemLevels | undefined
    const soundFile = await assets.file(recipe('m4a'), async (draft) => {
      fresh = await encodeMixdown(planned, sounds.source, range, [...AAC, draft], options)
    })
    const kept = await assets.bytes(recipe('f32', LEVELS_EDITION), async () => {
      fresh ??= await renderMixdown(planned, sounds.source, range, async () => {}, options)
      return Buffer.concat([fresh.voice, fresh.bed, fresh.bedUngained].map(bytesOf))
    })
    const levels = new Float32Array(kept.buffer.slice(kept.byteOffset, kept.byteOffset + kept.length))
    const part = (i: number) => levels.subarray((i * levels.length) / 3, ((i + 1) * levels.length) / 3)
    return { soundFile, stems: { voice: part(0), bed: part(1), bedUngained: part(2) } }
  } finally {
    await sounds.close()
  }
}

/** Raised when the same sound comes to be measured otherwise. */
const MEASURING_EDITION = 2

/** What was measured of a sound holds for as long as the very same sound goes into the video. */
async function keptBalance(
  { plan }: PlannedMix,
  part: Part,
  levels: ReturnType<typeof levelsWithin>,
  assets: Assets,
  measure: () => Promise<BalanceSheet>,
): Promise<BalanceSheet> {
  const recipe: Recipe = {
    kind: 'mix',
    edition: [await soundEdition(), MEASURING_EDITION],
    sources: mediaOfPlan(plan),
    recipe: [part, plan, levels],
    extension: 'json',
  }
  const kept = await assets.bytes(recipe, async () => Buffer.from(JSON.stringify(await measure())))
  return JSON.parse(kept.toString('utf8')) as BalanceSheet
}

/** What is kept is only as good as the code that made it. */
const soundEdition = async () => [AAC, RENDERER_EDITION, await ffmpegVersion()]

const mediaOfPlan = ({ clips }: MixPlan): string[] => [
  ...new Set(Object.values(clips).flatMap((track) => track.map(({ media }) => media))),
]

export function planFinished(
  lesson: Lesson,
  { soundOf, analysisOf }: LessonSounds,
  heard?: HeardWords,
): { timeline: Timeline; planned: PlannedMix } {
  const timeline = sounding(layoutLesson(lesson), soundOf)
  if (timeline.length === 0) throw new UserError(say('imports.lessonEmpty'))
  const { plan, levels } = planMix(lesson, timeline, analysisOf)
  const said = heard ? saidIn(timeline, heard, levels.speech) : levels.speech
  return { timeline, planned: { plan, levels: { ...levels, said } } }
}

/** Packets read ahead: with ffmpeg's own eight its two readers wait for each other by the clock, an hour for half a minute. */
const QUEUE = ['-thread_queue_size', '256']

async function joinPieces(
  shots: readonly Shot[],
  pieces: PieceMaker,
  { soundFile, captions, metadata, language }: Texts & { soundFile: string },
  rate: Hertz,
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
    ...QUEUE,
    '-framerate',
    String(rate),
    '-f',
    'h264',
    '-i',
    'pipe:0',
    ...QUEUE,
    ...inputOf(soundFile, 'mov'),
    ...inputOf(metadata, 'ffmetadata'),
    // From WebVTT ffmpeg would put strokes before braces.
    ...(captions ? inputOf(captions, 'srt') : []),
    ...['-map', '0:v', '-map', '1:a', ...(captions ? ['-map', '3:s'] : [])],
    ...['-map_metadata', '2', '-map_chapters', '2'],
    ...['-c', 'copy', ...(captions ? ['-c:s', 'mov_text'] : [])],
    ...['v', 'a', 's'].flatMap((kind) => [`-metadata:s:${kind}`, `language=${language}`]),
    '-bsf:v',
    `setts=ts=N*${TICKS}:duration=${TICKS}`,
    '-video_track_timescale',
    String(TICKS * rate),
    '-movflags',
    '+faststart',
    out,
  ]
  await runProgram('ffmpeg', args, { memory: CODING_MEMORY, limit: 6 * 3600, signal, feed })
}

interface Texts {
  /** The captions as SubRip and as WebVTT; null where nothing is said. */
  captions: string | null
  vtt: string | null
  metadata: string
  /** Code of three letters. */
  language: string
}

/** Captions, and title and chapters, as files that go into the video. */
async function writeTexts(
  lesson: Lesson,
  timeline: Timeline,
  said: readonly Caption[],
  part: Part,
  work: string,
): Promise<Texts> {
  const metadata = join(work, 'metadata.txt')
  await writeFile(metadata, writeMetadata({ title: lesson.title }, chaptersWithin(chaptersOf(timeline), part)))
  const made = captionsWithin(said, part)
  const language = languageCode(lesson.language)
  if (made.length === 0) return { captions: null, vtt: null, metadata, language }
  const [captions, vtt] = [join(work, 'captions.srt'), join(work, 'captions.vtt')]
  await writeFile(captions, writeSrt(made))
  await writeFile(vtt, writeVtt(made))
  return { captions, vtt, metadata, language }
}

/** The work folder may be on another file system. */
async function moveFile(from: string, to: string): Promise<void> {
  await rename(from, to).catch(async () => {
    const { copyFile } = await import('node:fs/promises')
    await copyFile(from, `${to}.part`)
    await rename(`${to}.part`, to)
  })
}

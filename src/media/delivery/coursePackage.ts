import { createHash } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { chaptersOf } from '@/core/captions/chapters'
import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { PLAYER_FILE, VIDEO_FILE, writeCoursePage, type PageContent } from '@/core/delivery/coursePage'
import { cmi5Structure, scorm12Manifest, scorm2004Manifest, type Packaged } from '@/core/delivery/manifests'
import type { PackageStandard } from '@/core/delivery/outputs'
import { writeVtt } from '@/core/formats/captionFiles'
import { chaptersAsVtt } from '@/core/formats/chapterFiles'
import { paragraphsOf, transcriptAsHtml } from '@/core/formats/transcripts'
import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import type { HeardWords } from '@/core/narration/words/stepWords'
import type { LessonSounds } from '../lessonMedia'
import type { RenderOptions } from '../mixdown'
import { projectFolder } from '../settings'
import type { Assets } from '../store/assets'
import type { MediaStore } from '../store/store'
import { withWorkFolder } from '../store/workFolder'
import { renderVideo } from '../video/render'
import { fileInZip, writeZip } from '../writeZip'

const MANIFESTS: Record<PackageStandard, { file: string; write: (one: Packaged) => string } | null> = {
  scorm12: { file: 'imsmanifest.xml', write: scorm12Manifest },
  scorm2004: { file: 'imsmanifest.xml', write: scorm2004Manifest },
  cmi5: { file: 'cmi5.xml', write: cmi5Structure },
  plain: null,
}

/** Makes a zip that a course site takes in, or that is opened as a folder: the video with a page of its own around it. */
export async function renderPackage(
  lesson: Lesson,
  store: MediaStore,
  sounds: LessonSounds,
  assets: Assets,
  standard: PackageStandard,
  out: string,
  { heard, ...options }: RenderOptions & { heard: HeardWords },
): Promise<BalanceSheet> {
  return withWorkFolder(async (work) => {
    const video = join(work, VIDEO_FILE)
    const { balance, timeline } = await renderVideo(lesson, store, sounds, assets, video, { ...options, heard })
    const texts = Object.entries(await textsOf(lesson, timeline, heard, standard))
    await writeZip([...texts.map(([name, content]) => ({ name, content })), fileInZip(VIDEO_FILE, video)], out)
    return balance
  })
}

/** Every file of a package but the video, by its name. */
async function textsOf(
  lesson: Lesson,
  timeline: Timeline,
  heard: HeardWords,
  standard: PackageStandard,
): Promise<Record<string, string>> {
  const { title, language } = lesson
  const [captions, chapters] = [lessonCaptions(lesson, timeline, heard), chaptersOf(timeline)]
  const content: PageContent = {
    title,
    language,
    captions: captions.map(({ start, end, lines }) => ({ start, end, lines })),
    chapters,
    transcript: timeline.steps.map(({ step, start }) => ({
      title: step.title,
      start,
      paragraphs: paragraphsOf(step.script),
    })),
    reportsTo: standard === 'plain' ? null : standard,
  }
  const texts: Record<string, string> = {
    'index.html': writeCoursePage(content),
    [PLAYER_FILE]: await readFile(join(projectFolder(), 'dist', 'course-page', PLAYER_FILE), 'utf8'),
    'captions.vtt': writeVtt(captions),
    'chapters.vtt': chaptersAsVtt(chapters),
    'transcript.html': transcriptAsHtml(title, language, timeline, { hasTimes: true }),
  }
  const manifest = MANIFESTS[standard]
  if (!manifest) return texts
  const files = [...Object.keys(texts), VIDEO_FILE]
  return { ...texts, [manifest.file]: manifest.write({ id: idOf(lesson), title, language, files }) }
}

/** The same lesson keeps its name, so that a course site knows a newer package of it. */
const idOf = ({ title, language, steps }: Lesson): string =>
  `lesson-${createHash('sha256')
    .update(JSON.stringify([title, language, steps[0]?.id]))
    .digest('hex')
    .slice(0, 16)}`

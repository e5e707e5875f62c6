import { rename } from 'node:fs/promises'
import { join } from 'node:path'
import sharp from 'sharp'
import { wholeOf, type Part } from '@/core/delivery/part'
import { layoutLesson } from '@/core/lesson/layout'
import { inputOf } from '../ffmpeg'
import { CODING_MEMORY, runProgram } from '../process'
import { withWorkFolder } from '../store/workFolder'
import { renderVideo } from '../video/render'
import type { Deliverable } from './makeOutput'

const MOVING = { width: 800, rate: 12 }
/** Longer ones are larger than the video itself. */
const LONGEST = 60 // s

/**
 * A poster (PNG: what a part begins with, a moment in, when all that comes gently is there), or a part as a moving picture
 * without sound (GIF or WebP, up to a minute of it).
 */
export async function renderPicture(
  { lesson, store, sounds, assets }: Deliverable,
  part: Part | undefined,
  format: 'png' | 'gif' | 'webp',
  out: string,
): Promise<{ width: number; height: number }> {
  const all = part ?? wholeOf(layoutLesson(lesson))
  const longest = (format === 'png' ? 1 : LONGEST) * all.rate
  const shown = { ...all, to: Math.min(all.to, all.from + longest) }
  return withWorkFolder(async (work) => {
    const video = join(work, 'part.mp4')
    await renderVideo(lesson, store, sounds, assets, video, { part: shown })
    const made = join(work, `picture.${format}`)
    await runProgram('ffmpeg', ['-v', 'error', '-y', ...inputOf(video, 'mov'), ...CODINGS[format], made], {
      memory: CODING_MEMORY,
      limit: 600,
    })
    const { width, height, pageHeight } = await sharp(made).metadata()
    await rename(made, out)
    return { width, height: pageHeight ?? height }
  })
}

const SMALLER = `fps=${MOVING.rate},scale=${MOVING.width}:-2:flags=lanczos`
const CODINGS = {
  png: ['-vf', 'reverse', '-frames:v', '1'],
  gif: ['-vf', `${SMALLER},split[a][b];[a]palettegen=stats_mode=diff[p];[b][p]paletteuse=dither=bayer`, '-loop', '0'],
  webp: ['-vf', SMALLER, '-c:v', 'libwebp', '-quality', '80', '-loop', '0'],
}

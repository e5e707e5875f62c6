import type { Chapter } from '@/core/captions/chapters'
import { clock, secondOf, writeVtt } from './captionFiles'

/** Chapters as WebVTT (W3C), one a cue. */
export const chaptersAsVtt = (chapters: readonly Chapter[]): string =>
  writeVtt(chapters.map(({ title, start, end }) => ({ start, end, lines: [title] })))

/** Chapters as lines that begin with their time, as video sites read them in a description. */
export function chaptersAsText(chapters: readonly Chapter[]): string {
  const isLong = (chapters.at(-1)?.end ?? 0) >= 3600
  const time = (at: number) => clock(secondOf(at), '.').slice(isLong ? 0 : 3, 8)
  return chapters.map(({ title, start }) => `${time(start)} ${title}\n`).join('')
}

/** Title, and chapters if any, as ffmpeg's own metadata file. */
export function writeMetadata(tags: Record<string, string>, chapters: readonly Chapter[]): string {
  const lines = Object.entries(tags).map(([name, value]) => `${name}=${escaped(value)}`)
  const parts = chapters.map(
    ({ title, start, end }) =>
      `[CHAPTER]\nTIMEBASE=1/1000\nSTART=${Math.round(start * 1000)}\nEND=${Math.round(end * 1000)}\ntitle=${escaped(title)}`,
  )
  return `;FFMETADATA1\n${[...lines, ...parts].join('\n')}\n`
}

const escaped = (text: string): string => text.replace(/[=;#\\\n]/g, '\\$&')

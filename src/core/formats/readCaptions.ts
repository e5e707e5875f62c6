import type { Seconds } from '@/core/units'
import { UserError } from '@/core/userError'

/** What a caption file says, and when. */
export interface ReadCaption {
  start: Seconds
  end: Seconds
  text: string
}

/** `01:02:03.456`, without hours or with a comma where a file has it so. */
const TIME = String.raw`(?:(\d+):)?(\d{1,2}):(\d{2})[.,](\d{3})`
const TIMES = new RegExp(String.raw`^\s*${TIME}\s*-->\s*${TIME}`)

/**
 * Reads WebVTT (W3C) and SubRip: blocks parted by blank lines, each with a line of times and its text. Names of speakers,
 * styles and places are left out. Throws a UserError where there is nothing to read.
 */
export function readCaptions(file: string): ReadCaption[] {
  const blocks = file
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .split(/\n[^\S\n]*\n/)
  const captions = blocks.flatMap(readBlock).sort((a, b) => a.start - b.start)
  if (captions.length > 0) return captions
  throw new UserError(
    'There are no captions in this file. It has to be WebVTT or SubRip, with lines like 00:01.000 --> 00:03.000.',
  )
}

function readBlock(block: string): ReadCaption[] {
  const lines = block.split('\n')
  const at = lines.findIndex((line) => TIMES.test(line))
  if (at < 0) return []
  const parts = TIMES.exec(lines[at]!)!.slice(1)
  const text = lines
    .slice(at + 1)
    .map(asWords)
    .filter(Boolean)
    .join(' ')
  const [start, end] = [secondsOf(parts.slice(0, 4)), secondsOf(parts.slice(4))]
  return text && end > start ? [{ start, end, text }] : []
}

const secondsOf = ([hours = '0', minutes, seconds, thousandths]: string[]): Seconds =>
  Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds) + Number(thousandths) / 1000

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', nbsp: ' ', lrm: '', rlm: '' }

/** Without tags (`<v Ann>`, `<i>`, `{\an8}`) and with its characters as they are read. */
const asWords = (line: string): string =>
  line
    .replace(/<(?:[/a-z]|\d\d:)[^<>]*>|\{\\[^{}]*\}|\u2060/gi, '')
    .replace(/&(amp|lt|gt|nbsp|lrm|rlm);/g, (_, name: string) => ENTITIES[name]!)
    .replace(/\s+/g, ' ')
    .trim()

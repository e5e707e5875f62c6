import type { DecibelsTruePeak, Lufs } from '@/core/units'

/** What can be made of a lesson. */

export const SOUND_FORMATS = ['wav', 'flac', 'mp3', 'm4a', 'opus'] as const
export type SoundFormat = (typeof SOUND_FORMATS)[number]

/** Standards by which course sites take packages in; `plain`: a folder that is opened without any. */
export const PACKAGE_STANDARDS = ['scorm12', 'scorm2004', 'cmi5', 'plain'] as const
export type PackageStandard = (typeof PACKAGE_STANDARDS)[number]

/** How loud a file is where it goes; null: as the lesson says. */
export type Loudness = { loudness: Lufs; truePeak: DecibelsTruePeak } | null

export type Output =
  | {
      kind: 'video'
      container: 'mp4' | 'webm'
      /** As large as the lesson says, or with 540 lines. */
      size: 'lesson' | 'small'
      loudness: Loudness
      hasMusic: boolean
      captions: 'track' | 'picture'
    }
  | { kind: 'sound'; format: SoundFormat; loudness: Loudness }
  | { kind: 'voice'; format: 'wav' | 'flac' }
  | { kind: 'tracks' }
  | { kind: 'captions'; format: 'vtt' | 'srt' | 'ttml' }
  | { kind: 'transcript'; format: 'html' | 'docx' | 'txt' }
  | { kind: 'chapters' }
  | { kind: 'package'; standard: PackageStandard }

const video = (part: Partial<Extract<Output, { kind: 'video' }>> = {}): Output => ({
  kind: 'video',
  container: 'mp4',
  size: 'lesson',
  loudness: null,
  hasMusic: true,
  captions: 'track',
  ...part,
})

/**
 * By the name under which they are asked for, stored and made with the command. Loudness by where a file goes: video sites turn
 * everything to -14 LUFS, broadcasters' archives follow EBU R 128 (-23 LUFS).
 */
export const OUTPUTS = {
  video: video(),
  'video-site': video({ loudness: { loudness: -14, truePeak: -1 } }),
  phone: video({ size: 'small', loudness: { loudness: -16, truePeak: -1 } }),
  archive: video({ loudness: { loudness: -23, truePeak: -1 } }),
  webm: video({ container: 'webm' }),
  'without-music': video({ hasMusic: false }),
  'captions-in-picture': video({ captions: 'picture' }),
  sound: { kind: 'sound', format: 'wav', loudness: null },
  flac: { kind: 'sound', format: 'flac', loudness: null },
  mp3: { kind: 'sound', format: 'mp3', loudness: null },
  m4a: { kind: 'sound', format: 'm4a', loudness: null },
  opus: { kind: 'sound', format: 'opus', loudness: null },
  tracks: { kind: 'tracks' },
  'voice-wav': { kind: 'voice', format: 'wav' },
  'voice-flac': { kind: 'voice', format: 'flac' },
  'captions-vtt': { kind: 'captions', format: 'vtt' },
  'captions-srt': { kind: 'captions', format: 'srt' },
  'captions-ttml': { kind: 'captions', format: 'ttml' },
  'transcript-html': { kind: 'transcript', format: 'html' },
  'transcript-docx': { kind: 'transcript', format: 'docx' },
  'transcript-txt': { kind: 'transcript', format: 'txt' },
  chapters: { kind: 'chapters' },
  'package-scorm12': { kind: 'package', standard: 'scorm12' },
  'package-scorm2004': { kind: 'package', standard: 'scorm2004' },
  'package-cmi5': { kind: 'package', standard: 'cmi5' },
  'package-plain': { kind: 'package', standard: 'plain' },
} as const satisfies Record<string, Output>

export type OutputName = keyof typeof OUTPUTS
export const OUTPUT_NAMES = Object.keys(OUTPUTS) as [OutputName, ...OutputName[]]
export const outputOf = (name: OutputName): Output => OUTPUTS[name]

const TYPES: Record<string, string> = {
  mp4: 'video/mp4',
  webm: 'video/webm',
  wav: 'audio/wav',
  flac: 'audio/flac',
  mp3: 'audio/mpeg',
  m4a: 'audio/mp4',
  opus: 'audio/ogg',
  vtt: 'text/vtt; charset=utf-8',
  srt: 'application/x-subrip',
  ttml: 'application/ttml+xml',
  html: 'text/html; charset=utf-8',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  txt: 'text/plain; charset=utf-8',
  zip: 'application/zip',
}

export function endingOf(output: Output): string {
  switch (output.kind) {
    case 'video':
      return output.container
    case 'tracks':
    case 'package':
      return 'zip'
    case 'chapters':
      return 'txt'
    default:
      return output.format
  }
}

export const mediaTypeOf = (output: Output): string => TYPES[endingOf(output)]!

/** What is put behind a lesson's title, so that files of one lesson differ by name. */
const NAMED: Partial<Record<OutputName, string>> = {
  'video-site': 'for a video site',
  phone: 'small',
  archive: 'for the archive',
  'without-music': 'without music',
  'captions-in-picture': 'with captions',
  tracks: 'tracks',
  'voice-wav': 'voice',
  'voice-flac': 'voice',
  'captions-vtt': 'captions',
  'captions-srt': 'captions',
  'captions-ttml': 'captions',
  'transcript-html': 'transcript',
  'transcript-docx': 'transcript',
  'transcript-txt': 'transcript',
  chapters: 'chapters',
  'package-scorm12': 'SCORM 1.2',
  'package-scorm2004': 'SCORM 2004',
  'package-cmi5': 'cmi5',
  'package-plain': 'page',
}

export function fileNameOf(title: string, name: OutputName): string {
  const [own, named] = [title.trim() || 'Lesson', NAMED[name]]
  return `${named ? `${own}, ${named}` : own}.${endingOf(outputOf(name))}`
}

/** Whether something sounds in it that is measured. */
export const isAudible = (name: OutputName): boolean => {
  const { kind } = outputOf(name)
  return kind === 'video' || kind === 'sound' || kind === 'package' || kind === 'tracks'
}

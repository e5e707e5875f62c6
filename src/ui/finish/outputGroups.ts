import type { OutputName } from '@/core/delivery/outputs'

/** What can be made, as an author looks for it: by what it is for. */
export interface OutputGroup {
  title: string
  detail: string
  button: string
  choices: { name: OutputName; label: string; detail: string }[]
}

export const OUTPUT_GROUPS: OutputGroup[] = [
  {
    title: 'Video',
    detail: 'With captions to switch on, and chapters.',
    button: 'Make the video',
    choices: [
      { name: 'video', label: 'for a course site', detail: 'MP4, as loud as the lesson says' },
      { name: 'video-site', label: 'for a video site', detail: 'MP4, −14 LUFS' },
      { name: 'phone', label: 'small, for phones', detail: 'MP4 with 540 lines, −16 LUFS' },
      { name: 'archive', label: 'for an archive', detail: 'MP4, −23 LUFS' },
      { name: 'webm', label: 'in an open format', detail: 'WebM with VP9 and Opus' },
      {
        name: 'captions-in-picture',
        label: 'captions in the picture',
        detail: 'MP4, for places that show no captions',
      },
      { name: 'without-music', label: 'without music', detail: 'MP4, for those whom music keeps from following' },
    ],
  },
  {
    title: 'Package for a course site',
    detail: 'The video on a page that reports who has watched it.',
    button: 'Make the package',
    choices: [
      { name: 'package-scorm12', label: 'SCORM 1.2', detail: 'taken in by nearly every course site' },
      { name: 'package-scorm2004', label: 'SCORM 2004', detail: 'also reports how much was watched' },
      { name: 'package-cmi5', label: 'cmi5', detail: 'for sites with a record store' },
      { name: 'package-plain', label: 'a page by itself', detail: 'opened from a folder, reports nothing' },
    ],
  },
  {
    title: 'Sound alone',
    detail: 'With title and chapters where the format has them.',
    button: 'Make the sound file',
    choices: [
      { name: 'sound', label: 'WAV', detail: '24 bit, 48 kHz' },
      { name: 'flac', label: 'FLAC', detail: 'as good as WAV, half the size' },
      { name: 'mp3', label: 'MP3', detail: 'plays everywhere' },
      { name: 'm4a', label: 'M4A', detail: 'small, for players and phones' },
      { name: 'opus', label: 'Opus', detail: 'smallest, open format' },
    ],
  },
  {
    title: 'To read',
    detail: 'What is said, in words.',
    button: 'Make the text',
    choices: [
      { name: 'captions-vtt', label: 'captions, WebVTT', detail: 'for web pages and most sites' },
      { name: 'captions-srt', label: 'captions, SRT', detail: 'for players and video sites' },
      { name: 'captions-ttml', label: 'captions, TTML', detail: 'for broadcasters (EBU-TT-D)' },
      { name: 'transcript-html', label: 'transcript, page', detail: 'to read or print' },
      {
        name: 'transcript-docx',
        label: 'transcript, document',
        detail: 'DOCX with times and pictures, to go on writing',
      },
      { name: 'transcript-txt', label: 'transcript, text', detail: 'without any form' },
      { name: 'chapters', label: 'chapters, text', detail: 'to paste under a video' },
    ],
  },
  {
    title: 'To mix elsewhere',
    detail: 'Files that lie exactly over each other.',
    button: 'Make the files',
    choices: [
      { name: 'tracks', label: 'all tracks', detail: 'voice, music, sounds, recordings as WAV in a zip' },
      { name: 'voice-wav', label: 'voice, WAV', detail: 'as it stands in the mix' },
      { name: 'voice-flac', label: 'voice, FLAC', detail: 'as it stands in the mix' },
    ],
  },
]

/** How something made is called in a list. */
export function titleOf(name: OutputName): string {
  const group = OUTPUT_GROUPS.find(({ choices }) => choices.some((choice) => choice.name === name))
  const choice = group?.choices.find((one) => one.name === name)
  return group && choice ? `${group.title}, ${choice.label}` : name
}

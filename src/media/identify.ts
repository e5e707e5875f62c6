import { stat } from 'node:fs/promises'
import { fileTypeFromFile } from 'file-type'
import type { ShelfKind } from '@/core/lesson/document'
import { UserError } from '@/core/userError'

/** What a file is by its bytes. `demuxer` is the only one ffmpeg may use for it; null for pictures and PDF. */
export interface FileIdentity {
  kind: ShelfKind
  extension: string
  demuxer: string | null
}

const KNOWN: Record<string, Omit<FileIdentity, 'extension'>> = {
  'image/png': { kind: 'still', demuxer: null },
  'image/jpeg': { kind: 'still', demuxer: null },
  'image/webp': { kind: 'still', demuxer: null },
  'application/pdf': { kind: 'deck', demuxer: null },
  'audio/wav': { kind: 'sound', demuxer: 'wav' },
  'audio/mpeg': { kind: 'sound', demuxer: 'mp3' },
  'audio/aac': { kind: 'sound', demuxer: 'aac' },
  'audio/x-m4a': { kind: 'sound', demuxer: 'mov' },
  'audio/mp4': { kind: 'sound', demuxer: 'mov' },
  'audio/ogg': { kind: 'sound', demuxer: 'ogg' },
  'audio/flac': { kind: 'sound', demuxer: 'flac' },
  'audio/x-flac': { kind: 'sound', demuxer: 'flac' },
  'application/ogg': { kind: 'sound', demuxer: 'ogg' },
  'video/mp4': { kind: 'recording', demuxer: 'mov' },
  'video/x-m4v': { kind: 'recording', demuxer: 'mov' },
  'video/quicktime': { kind: 'recording', demuxer: 'mov' },
  'video/webm': { kind: 'recording', demuxer: 'matroska' },
}
/** Things people bring that another step turns into something usable. */
const ADVICE: Record<string, string> = {
  pptx: 'Save the slides as PDF and bring in the PDF.',
  odp: 'Save the slides as PDF and bring in the PDF.',
  key: 'Save the slides as PDF and bring in the PDF.',
  cfb: 'Save the slides as PDF and bring in the PDF.',
  avi: 'Save the recording as MP4.',
  mkv: 'Save the recording as MP4 or WebM.',
  gif: 'Save the picture as PNG, or the animation as MP4.',
  heic: 'Save the picture as JPEG.',
  zip: 'Unpack it and bring in the files, or choose "Open a copy" on the home page for a saved lesson.',
}
const USABLE = 'Bring in PNG, JPEG, WebP, PDF, WAV, MP3, M4A, OGG, FLAC, MP4, MOV or WebM.'

/** The bytes decide, never the name. Throws a UserError that says what can be used instead. */
export async function identifyFile(path: string, name: string): Promise<FileIdentity> {
  const { size, isFolder } = await look(path)
  if (isFolder) throw new UserError(`A file is needed, and this is a folder: ${name}.`)
  if (size === 0) throw new UserError(`There is nothing in this file: ${name}. Copy it again from where it came from.`)
  const found = await fileTypeFromFile(path)
  const known = found && KNOWN[found.mime.split(';')[0]!]
  if (known) return { ...known, extension: found.ext }
  throw new UserError(`This file can't be used: ${name}. ${(found && ADVICE[found.ext]) ?? USABLE}`)
}

async function look(path: string): Promise<{ size: number; isFolder: boolean }> {
  const found = await stat(path)
  return { size: found.size, isFolder: found.isDirectory() }
}

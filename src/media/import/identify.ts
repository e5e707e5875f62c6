import { open, stat } from 'node:fs/promises'
import { fileTypeFromFile } from 'file-type'
import type { ShelfKind } from '@/core/lesson/document'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'

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
  'image/avif': { kind: 'still', demuxer: null },
  'image/gif': { kind: 'still', demuxer: 'gif' },
  'image/tiff': { kind: 'still', demuxer: null },
  'image/bmp': { kind: 'still', demuxer: null },
  'image/heic': { kind: 'still', demuxer: null },
  'image/heif': { kind: 'still', demuxer: null },
  'application/pdf': { kind: 'deck', demuxer: null },
  'application/vnd.openxmlformats-officedocument.presentationml.presentation': { kind: 'deck', demuxer: null },
  'application/vnd.oasis.opendocument.presentation': { kind: 'deck', demuxer: null },
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
  'video/matroska': { kind: 'recording', demuxer: 'matroska' },
  'video/vnd.avi': { kind: 'recording', demuxer: 'avi' },
  'video/mp2t': { kind: 'recording', demuxer: 'mpegts' },
  'video/3gpp': { kind: 'recording', demuxer: 'mov' },
  'application/vnd.ms-asf': { kind: 'recording', demuxer: 'asf' },
  'video/x-ms-asf': { kind: 'recording', demuxer: 'asf' },
  'audio/x-ms-asf': { kind: 'sound', demuxer: 'asf' },
  'audio/aiff': { kind: 'sound', demuxer: 'aiff' },
}
/** Things people bring that another step turns into something usable, by the ending that fits their bytes. */
const ADVICE = [
  { endings: ['key', 'cfb', 'docx', 'odt'], advice: 'imports.slidesOf' },
  { endings: ['flv', 'mpg', 'ogv'], advice: 'imports.recordingOf' },
  { endings: ['jxl', 'jp2', 'ico', 'psd', 'cr2'], advice: 'imports.pictureOf' },
  { endings: ['amr', 'ape', 'wv', 'ac3', 'dsf', 'mid'], advice: 'imports.soundOf' },
  { endings: ['zip'], advice: 'imports.zipOf' },
] as const satisfies { endings: string[]; advice: string }[]

function adviceOn(ending: string | undefined) {
  const fitting = ADVICE.find(({ endings }) => endings.some((one) => one === ending))
  return fitting?.advice ?? 'imports.unusable'
}

/** The bytes decide, never the name. Throws a UserError that says what can be used instead. */
export async function identifyFile(path: string, name: string): Promise<FileIdentity> {
  const { size, isFolder } = await look(path)
  if (isFolder) throw new UserError(say('imports.aFileIsNeeded', { name }))
  if (size === 0) throw new UserError(say('imports.thereIsNothingIn', { name }))
  const found = await fileTypeFromFile(path)
  const known = found && KNOWN[found.mime.split(';')[0]!]
  const identity = known ? { ...known, extension: found.ext } : await byItsBeginning(path)
  if (identity) return identity
  throw new UserError(say(adviceOn(found?.ext), { name }))
}

/** Formats that are told by their first characters alone. */
const BEGINNINGS: [beginning: RegExp, identity: FileIdentity][] = [
  [/^RF64/, { kind: 'sound', demuxer: 'wav', extension: 'wav' }],
  [/^caff/, { kind: 'sound', demuxer: 'caf', extension: 'caf' }],
  [/^FORM....AIF[FC]/s, { kind: 'sound', demuxer: 'aiff', extension: 'aif' }],
]
const DRAWING: FileIdentity = { kind: 'still', demuxer: null, extension: 'svg' }

async function byItsBeginning(path: string): Promise<FileIdentity | undefined> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(1024), 0, 1024, 0)
    const head = buffer.subarray(0, bytesRead).toString('utf8')
    return BEGINNINGS.find(([beginning]) => beginning.test(head))?.[1] ?? (isDrawing(head) ? DRAWING : undefined)
  } finally {
    await file.close()
  }
}

/** What may stand before the first element of an XML document, by how it begins and ends. */
const PROLOGUE: [begins: string, ends: string][] = [
  ['<!--', '-->'],
  ['<?', '?>'],
  ['<!', '>'],
]

/** Whether the first element is a drawing. Each character is looked at once: a pattern of repeats within repeats is not. */
function isDrawing(head: string): boolean {
  let rest = head.replace(/^\uFEFF/, '').trimStart()
  for (;;) {
    const part = PROLOGUE.find(([begins]) => rest.startsWith(begins))
    if (!part) return /^<svg[\s>]/i.test(rest)
    const end = rest.indexOf(part[1], part[0].length)
    if (end < 0) return false
    rest = rest.slice(end + part[1].length).trimStart()
  }
}

async function look(path: string): Promise<{ size: number; isFolder: boolean }> {
  const found = await stat(path)
  return { size: found.size, isFolder: found.isDirectory() }
}

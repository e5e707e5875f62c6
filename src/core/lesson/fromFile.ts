import { say } from '@/messages/say'
import { titleFromName, type MediaInfo } from '@/core/messages/media'
import type { Picture, ShelfItem, Step } from './document'
import { DEFAULT_STAY, newRecording, newStep, READING_PACE, newStill } from './newParts'

/** What a file brings to a lesson: its place on the shelf, its pictures, their steps. */

/** What a file looks like on the shelf before the author says more about it. */
export const shelfItem = (media: MediaInfo): ShelfItem => ({
  media: media.hash,
  kind: media.kind,
  title: titleFromName(media.name),
  source: media.name,
  licence: '',
  credit: '',
})

/** A picture that a file gives, and what it says of it. */
export interface FilePicture {
  title: string
  picture: Picture
  /** What is written on it. */
  text: string
  /** What the speaker is to say. */
  notes: string
  isHidden: boolean
}

/** The pictures a file gives: a page each, or the whole recording. Empty for sounds. */
export function picturesOf(media: MediaInfo): FilePicture[] {
  const name = titleFromName(media.name)
  if (media.kind === 'recording') {
    const picture = newRecording(media.hash, media.length!)
    return [{ title: name, picture, text: '', notes: '', isHidden: false }]
  }
  return media.pages.map((title, i) => ({
    title:
      title || (media.pages.length > 1 ? say('files.pageOf', { name, page: media.labels[i] || String(i + 1) }) : name),
    picture: newStill(media.hash, i + 1),
    text: media.texts[i] ?? '',
    notes: media.notes[i] ?? '',
    isHidden: media.hidden.includes(i + 1),
  }))
}

/** Those that are seen when it is shown; all of them where none is. */
export function shownPicturesOf(media: MediaInfo): FilePicture[] {
  const all = picturesOf(media)
  const shown = all.filter(({ isHidden }) => !isHidden)
  return shown.length > 0 ? shown : all
}

/** A step with a picture of a file: its notes are its script, and without any it stays as long as it takes to read. */
export function stepOfPicture(id: string, { title, picture, text, notes }: FilePicture): Step {
  const step = { ...newStep(id, title, picture), script: notes }
  const words = text.split(/\s+/).filter(Boolean).length
  if (picture.kind === 'still' && !notes && words * READING_PACE > DEFAULT_STAY)
    step.length = { kind: 'reading', perWord: READING_PACE, words }
  return step
}

/** Files by name as people count: `slide 2` before `slide 10`. */
export const byName = (a: { name: string }, b: { name: string }): number =>
  a.name.localeCompare(b.name, 'en', { numeric: true, sensitivity: 'base' })

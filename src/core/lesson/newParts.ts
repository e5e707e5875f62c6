import { NO_CLEAN_UP } from '@/core/narration/cleanUp/settings'
import { DEFAULT_READING } from '@/core/narration/speechVoice'
import type { Decibels, Seconds } from '@/core/units'
import type {
  Anchor,
  BedCue,
  Lesson,
  MediaHash,
  MixTargets,
  Picture,
  RecordingPicture,
  SoundCue,
  Step,
  StillPicture,
} from './document'
import { USUAL_FRAME, USUAL_FRAMING } from './framing'
import { CUT, DEFAULT_LOOK } from './layers'

/** A lesson and its parts as they begin. */

export const DEFAULT_TARGETS: MixTargets = {
  clearance: 16,
  swell: 6,
  pauseFrom: 3,
  loudness: -16,
  truePeak: -1,
  slope: 9.3,
  recordingsUnder: 10,
  effectsUnder: 0,
}
/** Worth one to two and a half LU, and not heard as a hole in the music. */
export const USUAL_POCKET: Decibels = 6
/** A picture without words stays this long unless told otherwise. */
export const DEFAULT_STAY = 4
/** Seconds that people take to read a word on a picture. */
export const READING_PACE = 0.4

export function emptyLesson(title: string): Lesson {
  return {
    title,
    steps: [],
    takes: [],
    marks: [],
    cleanUp: NO_CLEAN_UP,
    reading: DEFAULT_READING,
    captionCorrections: [],
    language: 'en-gb',
    mainLanguage: 'en-gb',
    others: {},
    bedCues: [],
    shelf: [],
    targets: { ...DEFAULT_TARGETS },
    sounds: [],
    nudges: [],
    pocket: { on: false, depth: USUAL_POCKET, nearer: 0 },
    evenStrokes: false,
    tracks: { voice: newTrack(), recordings: newTrack(), sounds: newTrack(), bed: newTrack() },
    lengths: { leadIn: 0.4, tail: 0.6, atLeast: 3 },
    frame: { ...USUAL_FRAME },
    framing: { ...USUAL_FRAMING },
    look: { ...DEFAULT_LOOK },
    edge: { ...CUT },
    opening: 0,
    closing: 0,
  }
}

const newTrack = () => ({ gain: 0, muted: false })

/** A whole recording as a picture, silent and at its own speed. */
export const newRecording = (media: MediaHash, length: number): RecordingPicture => ({
  kind: 'recording',
  media,
  from: 0,
  to: length,
  gain: null,
  speed: 1,
  cuts: [],
  pins: [],
  framing: null,
})

/** A page of a file as a picture. */
export const newStill = (media: MediaHash, page: number): StillPicture => ({
  kind: 'still',
  media,
  page,
  framing: null,
})

/** A piece of music from a step on, as it is. */
/** A whole file hung somewhere, at its own level. */
export const newSound = (
  id: string,
  media: MediaHash,
  length: Seconds,
  anchor: Anchor,
  track: SoundCue['track'],
): SoundCue => ({
  ...{ id, media, from: 0, to: length, track, anchor },
  ...{ gain: 0, fadeIn: 0, fadeOut: 0, meant: false, caption: '' },
})

export const newBed = (cue: string, media: MediaHash, step: string): BedCue => ({
  id: cue,
  media,
  begins: { kind: 'step', step },
  last: null,
  from: 0,
  to: null,
  clearance: null,
  blend: 2,
  fadeIn: null,
  fadeOut: null,
  fadeShape: 'smooth',
})

/** A step with this picture and nothing said yet. */
export function newStep(id: string, title: string, picture: Picture): Step {
  return {
    id,
    title,
    picture,
    length: { kind: 'voice', atLeast: picture.kind === 'recording' ? picture.to - picture.from : DEFAULT_STAY },
    leadIn: 0,
    tail: 0,
    more: [],
    layers: [],
    edge: null,
    chapter: null,
    script: '',
    passages: [],
  }
}

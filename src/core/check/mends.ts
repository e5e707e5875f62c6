import type { Edit } from '@/core/lesson/edits'
import type { Lesson, Step } from '@/core/lesson/document'
import type { Area } from '@/core/lesson/layers'
import { lostCorrections } from '@/core/captions/corrections'
import { contrastOf } from '@/core/picture/contrast'
import { say } from '@/messages/say'
import type { Finding } from './finding'

/** What takes a finding away in one press. */
export interface Mend {
  label: string
  edits: Edit[]
}

const DARK = '#161d29'
const LIGHT = '#ffffff'

/** Null where somebody has to decide, or where it is no longer as it was found. */
export function mendOf({ code, stepId, subject }: Finding, lesson: Lesson): Mend | null {
  const step = lesson.steps.find(({ id }) => id === stepId)
  switch (code) {
    case 'words-run-over':
      return step
        ? one(say('mends.followVoice'), { name: 'setLength', step: step.id, length: { kind: 'voice', atLeast: 1 } })
        : null
    case 'script-changed':
      return step ? one(say('mends.rightAsSaid'), { name: 'acceptScript', step: step.id }) : null
    case 'edge-over-words':
      return step
        ? one(say('mends.cutThere'), { name: 'setEdges', steps: [step.id], edge: { ...lesson.edge, kind: 'cut' } })
        : null
    case 'two-voices':
    case 'effect-over-words': {
      const sound = lesson.sounds.find(({ id }) => id === subject)
      return sound ? one(say('mends.isMeant'), { name: 'setSound', sound: { ...sound, meant: true } }) : null
    }
    case 'near-music':
      return one(say('mends.music16'), { name: 'setTarget', target: 'clearance', value: 16 })
    case 'hum': {
      // In this take alone: the others do not hum.
      const take = lesson.takes.find(({ media }) => media === subject)
      const { hiss, ...rest } = take?.cleanUp ?? lesson.cleanUp
      const cleanUp = { ...rest, hiss: { ...hiss, on: true } }
      return one(say('mends.humOut'), { name: 'setCleanUp', media: take?.media ?? null, cleanUp })
    }
    case 'low-contrast': {
      const { look } = lesson
      const ink = contrastOf(DARK, look.ground) > contrastOf(LIGHT, look.ground) ? DARK : LIGHT
      return one(say(ink === DARK ? 'mends.darkLetters' : 'mends.lightLetters'), {
        name: 'setLook',
        look: { ...look, ink },
      })
    }
    case 'outside':
      return movedIn(step, subject)
    case 'captions-over-words': {
      const { look } = lesson
      const place = look.captions.place === 'lower' ? 'upper' : 'lower'
      const captions = { ...look.captions, place } as const
      return one(say(place === 'upper' ? 'mends.captionsAbove' : 'mends.captionsBelow'), {
        name: 'setLook',
        look: { ...look, captions },
      })
    }
    case 'lost-captions': {
      const lost = lostCorrections(lesson.captionCorrections, lesson.steps, lesson.sounds)
      return one(say('mends.takeAway'), { name: 'correctCaptions', put: [], remove: lost.map(({ words }) => words) })
    }
    default:
      return withoutEnd(code, lesson, step, subject) ?? takenOut(code, step, subject)
  }
}

const one = (label: string, edit: Edit): Mend => ({ label, edits: [edit] })

function movedIn(step: Step | undefined, subject: string | undefined): Mend | null {
  const layer = step?.layers.find(({ id }) => id === subject)
  if (!step || !layer) return null
  return one(say('mends.moveIn'), { name: 'setLayer', step: step.id, layer: { ...layer, area: inside(layer.area) } })
}

function inside({ x, y, width, height }: Area): Area {
  const [across, down] = [Math.min(1, width), Math.min(1, height)]
  const within = (from: number, length: number) => Math.min(1 - length, Math.max(0, from))
  return { x: within(x, across), y: within(y, down), width: across, height: down }
}

/** What has lost only its end goes on for as long as it can. */
function withoutEnd(code: Finding['code'], { bedCues }: Lesson, step: Step | undefined, subject = ''): Mend | null {
  const cue = code === 'loose-bed-end' && bedCues.find(({ id }) => id === subject)
  if (cue) return one(say('mends.asLongAsItCan'), { name: 'setBed', cue: { ...cue, last: null } })
  const layer = code === 'loose-layer-end' && step?.layers.find(({ id }) => id === subject)
  if (step && layer)
    return one(say('mends.toThePicturesEnd'), { name: 'setLayer', step: step.id, layer: { ...layer, to: null } })
  return null
}

/** What has come loose. */
function takenOut(code: Finding['code'], step: Step | undefined, subject = ''): Mend | null {
  const edit = ((): Edit | null => {
    switch (code) {
      case 'loose-sound':
        return { name: 'removeSounds', sounds: [subject] }
      case 'loose-bed':
        return { name: 'removeBed', cue: subject }
      case 'loose-nudge':
        return { name: 'removeNudges', nudges: [subject] }
      case 'loose-picture':
        return step ? { name: 'removePicture', step: step.id, id: subject } : null
      case 'loose-layer':
        return step ? { name: 'removeLayer', step: step.id, id: subject } : null
      default:
        return null
    }
  })()
  return edit && one(say('mends.takeOut'), edit)
}

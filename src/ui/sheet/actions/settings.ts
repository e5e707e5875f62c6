import { say } from '@/messages/say'
import type { Messages } from '@/messages/words'
import { useSheetView, type PanelTab } from '../score/view'

/** What can be set beside the sheet, so that it is found by its name: each leads to its place, ready to be changed. */

export type SettingId = keyof Messages['settingWords']

export interface Setting {
  id: SettingId
  /** Its name, by which it is also found in the page. */
  name(): string
  panel: PanelTab
  /** Behind which name it is folded away. */
  fold?: string
}

export const SETTINGS: readonly Setting[] = [
  { id: 'clearance', name: () => say('lesson.clearance'), panel: 'music' },
  { id: 'swell', name: () => say('lesson.swell'), panel: 'music' },
  { id: 'pauseFrom', name: () => say('lesson.pauseFrom'), panel: 'music' },
  { id: 'addMusic', name: () => say('music.pieceOfMusicTo'), panel: 'music' },
  { id: 'addSound', name: () => say('sounds.soundToAdd'), panel: 'sounds' },
  { id: 'lookForSound', name: () => say('sounds.lookForASound'), panel: 'sounds' },
  { id: 'shape', name: () => say('video.shapeOfTheVideo'), panel: 'video' },
  { id: 'lines', name: () => say('video.linesOfTheShorter'), panel: 'video' },
  { id: 'rate', name: () => say('video.picturesASecond'), panel: 'video' },
  { id: 'framing', name: () => say('video.howAPictureOf'), panel: 'video' },
  { id: 'edge', name: () => say('video.howPicturesGiveWayTo'), panel: 'video' },
  { id: 'opening', name: () => say('over.firstPictureComesOut'), panel: 'video' },
  { id: 'closing', name: () => say('over.lastPictureGoesInto'), panel: 'video' },
  { id: 'letters', name: () => say('over.letters'), panel: 'video' },
  { id: 'captionSize', name: () => say('captions.sizeOfCaptions'), panel: 'video' },
  { id: 'captionPlace', name: () => say('captions.placeOfCaptions'), panel: 'video' },
  { id: 'captionGround', name: () => say('captions.groundOfCaptions'), panel: 'video' },
  { id: 'captionPace', name: () => say('captions.howFastCaptionsMay'), panel: 'video' },
  { id: 'title', name: () => say('step.title'), panel: 'selected' },
  { id: 'recordingSpeed', name: () => say('step.speedOfTheRecording'), panel: 'selected' },
  { id: 'ownSound', name: () => say('step.theRecordingsOwnSound'), panel: 'selected' },
  { id: 'length', name: () => say('step.lengthRule'), panel: 'selected' },
  { id: 'leadIn', name: () => say('step.leadInBeforeThe'), panel: 'selected' },
  { id: 'tail', name: () => say('step.tailAfterTheLast'), panel: 'selected' },
  { id: 'furtherPicture', name: () => say('step.anotherPictureAtThe'), panel: 'selected', fold: 'more' },
  { id: 'stepEdge', name: () => say('over.howItGivesWay'), panel: 'selected', fold: 'edge' },
  { id: 'chapter', name: () => say('step.whetherThisStepBegins'), panel: 'selected', fold: 'chapter' },
]

/** Opens its panel and puts the focus on it, as soon as it is there. */
export function goToSetting({ name, panel, fold }: Setting): void {
  const { setPanel, setPanelUnfolded, setUnfolded, unfolded } = useSheetView.getState()
  setPanel(panel)
  setPanelUnfolded(true)
  if (fold && !unfolded.includes(fold)) setUnfolded([...unfolded, fold])
  focusWhenThere(name(), performance.now() + WAIT)
}

const WAIT = 3000 // ms

function focusWhenThere(name: string, until: number): void {
  const found = controlNamed(name)
  if (found) {
    found.focus()
    found.scrollIntoView({ block: 'nearest' })
  } else if (performance.now() < until) requestAnimationFrame(() => focusWhenThere(name, until))
}

/** By what is said of it to those who don't see it: its label, or what stands in its `label`. */
function controlNamed(name: string): HTMLElement | null {
  const labelled = [...document.querySelectorAll<HTMLElement>('[aria-label]')].find(
    (one) => one.getAttribute('aria-label') === name,
  )
  const named = [...document.querySelectorAll('label')].find(({ textContent }) => textContent === name)
  const control = labelled ?? named?.control ?? null
  return control?.role === 'group' ? control.querySelector('button') : control
}

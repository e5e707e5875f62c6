'use client'

import { Radio } from 'antd'
import { useState } from 'react'
import type { LengthRule, Said } from '@/core/lesson/document'
import { picturesOfStep } from '@/core/lesson/usedMedia'
import type { Clash, Side } from '@/core/lesson/merge'
import { say } from '@/messages/say'
import { Dialog } from '../parts/Dialog'
import { PictureThumb } from '../parts/PictureThumb'
import { useDesk, useLesson } from '../lesson/context'
import type { Meeting } from './meeting'
import styles from './versions.module.css'

/** What this window and another changed otherwise, side by side. All else of both is kept. */
export function TwoVersions({ meeting, onClose }: { meeting: Meeting; onClose: () => void }) {
  const { autosave } = useDesk()
  const lesson = useLesson()
  const clashes = meeting.clashes(lesson) ?? []
  const [chosen, setChosen] = useState<ReadonlyMap<string, Side>>(new Map())
  const titleOf = (step: string) => {
    const index = lesson.steps.findIndex(({ id }) => id === step)
    const { title } = lesson.steps[index] ?? meeting.theirs.steps.find(({ id }) => id === step) ?? { title: '' }
    return index < 0 ? title : say('lesson.step', { number: index + 1, title })
  }
  const unite = () => {
    autosave.unite(meeting, chosen)
    onClose()
  }
  return (
    <Dialog
      width={860}
      title={say('lesson.twoVersionsOfThe')}
      okText={say('lesson.putTogether')}
      onOk={unite}
      onCancel={onClose}
    >
      <p className={styles.hint}>{say('lesson.chooseFor', { count: clashes.length })}</p>
      <ul className={styles.clashes}>
        {clashes.map((clash) => (
          <li key={clash.key}>
            <h3>
              {clash.step
                ? say('lesson.ofTheStep', { step: titleOf(clash.step), what: names()[clash.kind] })
                : names()[clash.kind]}
            </h3>
            <Radio.Group
              className={styles.sides}
              aria-label={names()[clash.kind]}
              value={chosen.get(clash.key) ?? 'mine'}
              onChange={({ target }) => setChosen(new Map(chosen).set(clash.key, target.value as Side))}
            >
              {(['mine', 'theirs'] as const).map((side) => (
                <Radio key={side} value={side}>
                  <b>{side === 'mine' ? say('lesson.asItIsHere') : say('lesson.asItIsIn')}</b>
                  <Shown clash={clash} side={side} />
                </Radio>
              ))}
            </Radio.Group>
          </li>
        ))}
      </ul>
    </Dialog>
  )
}

const names = (): Record<Clash['kind'], string> => ({
  title: say('lesson.theTitleOfThe'),
  order: say('lesson.theOrderOfThe'),
  'step title': say('lesson.itsTitle'),
  picture: say('lesson.itsPicture'),
  'over the picture': say('lesson.somethingOverItsPicture'),
  edge: say('lesson.howItGivesWay'),
  chapter: say('lesson.whetherItBeginsA'),
  length: say('lesson.howLongItStays'),
  words: say('lesson.whatIsSaid'),
  step: say('lesson.theWholeStep'),
  take: say('lesson.aTake'),
  sound: say('lesson.aSound'),
  music: say('lesson.theMusic'),
  'gain line': say('lesson.aPointOfThe'),
  file: say('lesson.aFileOnThe'),
  caption: say('lesson.aCaption'),
  mark: say('lesson.aPlaceAmongThe'),
  setting: say('lesson.aSetting'),
})

/** One side of it, as far as it can be told in a few words. */
function Shown({ clash, side }: { clash: Clash; side: Side }) {
  switch (clash.kind) {
    case 'title':
    case 'step title':
      return <p>{clash[side]}</p>
    case 'words':
      return clash[side].map(({ step, said }) => <p key={step}>{sayWords(said)}</p>)
    case 'picture':
      return (
        <span className={styles.pictures}>
          {picturesOfStep(clash[side]).map((picture, i) => (
            <PictureThumb key={i} picture={picture} />
          ))}
        </span>
      )
    case 'step':
      return <p>{clash[side] ? sayWords(clash[side]) : say('lesson.takenOut')}</p>
    case 'length':
      return <p>{sayLength(clash[side].length)}</p>
    case 'take':
      return <p>{clash[side]?.name ?? say('lesson.takenOut')}</p>
    case 'caption':
      return <p>{clash[side] ? clash[side].text || say('lesson.notShown') : say('lesson.asItIsMade')}</p>
    case 'file':
      return <p>{clash[side]?.title ?? say('lesson.takenOut')}</p>
    case 'setting':
      return typeof clash[side] === 'number' || typeof clash[side] === 'string' ? <p>{clash[side]}</p> : null
    default:
      return clash[side] === undefined ? <p>{say('lesson.takenOut')}</p> : null
  }
}

const sayWords = ({ script, passages }: Said): string =>
  script || (passages.length > 0 ? say('lesson.aVoiceWithoutA') : say('lesson.nothingIsSaid'))

function sayLength(rule: LengthRule): string {
  switch (rule.kind) {
    case 'fixed':
      return say('lesson.secondsLong', { length: String(rule.length) })
    case 'until-next':
      return say('lesson.untilTheNextWord')
    case 'reading':
      return say('lesson.timeToReadWhat')
    default:
      return say('lesson.followsTheVoice')
  }
}

'use client'

import { Modal, Radio } from 'antd'
import { useState } from 'react'
import type { LengthRule, Said } from '@/core/lesson/document'
import { picturesOfStep } from '@/core/lesson/usedMedia'
import type { Clash, Side } from '@/core/lesson/merge'
import { PictureThumb } from '../parts/PictureThumb'
import { useDesk, useLesson } from './context'
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
    return index < 0 ? title : `Step ${index + 1} · ${title}`
  }
  const unite = () => {
    autosave.unite(meeting, chosen)
    onClose()
  }
  return (
    <Modal
      open
      width={860}
      title="Two versions of the same things"
      okText="Put together"
      onOk={unite}
      onCancel={onClose}
    >
      <p className={styles.hint}>
        Everything else that either window changed is kept. Choose what counts for{' '}
        {clashes.length === 1 ? 'this' : `these ${clashes.length}`}:
      </p>
      <ul className={styles.clashes}>
        {clashes.map((clash) => (
          <li key={clash.key}>
            <h3>
              {clash.step ? `${titleOf(clash.step)}: ` : ''}
              {NAMES[clash.kind]}
            </h3>
            <Radio.Group
              className={styles.sides}
              aria-label={NAMES[clash.kind]}
              value={chosen.get(clash.key) ?? 'mine'}
              onChange={({ target }) => setChosen(new Map(chosen).set(clash.key, target.value as Side))}
            >
              {(['mine', 'theirs'] as const).map((side) => (
                <Radio key={side} value={side}>
                  <b>{side === 'mine' ? 'As it is here' : 'As it is in the other window'}</b>
                  <Shown clash={clash} side={side} />
                </Radio>
              ))}
            </Radio.Group>
          </li>
        ))}
      </ul>
    </Modal>
  )
}

const NAMES: Record<Clash['kind'], string> = {
  title: 'the title of the lesson',
  order: 'the order of the steps',
  'step title': 'its title',
  picture: 'its picture',
  'over the picture': 'something over its picture',
  edge: 'how it gives way to the next',
  chapter: 'whether it begins a chapter',
  length: 'how long it stays',
  words: 'what is said',
  step: 'the whole step',
  take: 'a take',
  sound: 'a sound',
  music: 'the music',
  'gain line': 'a point of the gain line',
  file: 'a file on the shelf',
  caption: 'a caption',
  mark: 'a place among the words',
  setting: 'a setting',
}

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
      return <p>{clash[side] ? sayWords(clash[side]) : 'taken out'}</p>
    case 'length':
      return <p>{sayLength(clash[side].length)}</p>
    case 'take':
      return <p>{clash[side]?.name ?? 'taken out'}</p>
    case 'caption':
      return <p>{clash[side] ? clash[side].text || 'not shown' : 'as it is made'}</p>
    case 'file':
      return <p>{clash[side]?.title ?? 'taken out'}</p>
    case 'setting':
      return typeof clash[side] === 'number' || typeof clash[side] === 'string' ? <p>{clash[side]}</p> : null
    default:
      return clash[side] === undefined ? <p>taken out</p> : null
  }
}

const sayWords = ({ script, passages }: Said): string =>
  script || (passages.length > 0 ? 'a voice without a script' : 'nothing is said')

function sayLength(rule: LengthRule): string {
  switch (rule.kind) {
    case 'fixed':
      return `${rule.length} s`
    case 'until-next':
      return 'until the next word is said'
    case 'reading':
      return 'time to read what is on the picture'
    default:
      return 'follows the voice'
  }
}

'use client'

import { Select } from 'antd'
import type { Framing } from '@/core/lesson/framing'
import { say } from '@/messages/say'
import { useLesson } from '../lesson/context'
import { MoveSlider } from '../parts/MoveSlider'
import panel from '../sheet/panel.module.css'
import styles from './video.module.css'

type Choice = 'lesson' | 'plain' | 'blurred' | 'colour' | 'fill'

const labels = (): Record<Exclude<Choice, 'lesson'>, string> => ({
  plain: say('video.allOfItOn'),
  blurred: say('video.allOfItOnItself'),
  colour: say('video.allOfItOnA'),
  fill: say('video.fillingTheFrameCut'),
})

const choiceOf = ({ way, ground }: Framing): Exclude<Choice, 'lesson'> =>
  way === 'fill' ? 'fill' : ground === 'plain' || ground === 'blurred' ? ground : 'colour'

/** `isFirst`: a new step of undo begins with it. */
type OnChange<T> = (value: T, isFirst: boolean) => void

/** How a picture of another shape stands in the frame; null: as the lesson says. */
export function FramingSettings({
  framing,
  onChange,
}: {
  framing: Framing | null
  onChange: OnChange<Framing | null>
}) {
  const usual = useLesson().framing
  return (
    <FramingFields
      framing={framing}
      usual={usual}
      extra={{ value: 'lesson', label: say('video.asAll', { usual: labels()[choiceOf(usual)] }) }}
      onChange={onChange}
    />
  )
}

/** The same for the lesson's own: there is nothing it could follow. */
export function UsualFramingSettings({ onChange }: { onChange: OnChange<Framing> }) {
  const usual = useLesson().framing
  return (
    <FramingFields
      framing={usual}
      usual={usual}
      onChange={(framing, isFirst) => framing && onChange(framing, isFirst)}
    />
  )
}

interface FramingFieldsProps {
  framing: Framing | null
  usual: Framing
  extra?: { value: 'lesson'; label: string }
  onChange: OnChange<Framing | null>
}

function FramingFields({ framing, usual, extra, onChange }: FramingFieldsProps) {
  const now = framing ?? usual
  const set = (part: Partial<Framing>, isFirst = true) => onChange({ ...now, ...part }, isFirst)
  const setMiddle = (part: Partial<Framing['middle']>, isFirst: boolean) =>
    set({ middle: { ...now.middle, ...part } }, isFirst)
  const choose = (choice: Choice) => {
    if (choice === 'lesson') onChange(null, true)
    else if (choice === 'fill') set({ way: 'fill' })
    else set({ way: 'whole', ground: choice === 'colour' ? '#4a5a6a' : choice })
  }
  const own = Object.entries(labels()).map(([value, label]) => ({ value: value as Choice, label }))
  return (
    <div className={panel.fields}>
      <span>{say('video.stands')}</span>
      <Select<Choice>
        aria-label={say('video.howAPictureOf')}
        value={framing ? choiceOf(framing) : 'lesson'}
        options={extra ? [extra, ...own] : own}
        onChange={choose}
      />
      {framing && choiceOf(framing) === 'colour' && (
        <>
          <span>{say('video.ground')}</span>
          <input
            type="color"
            aria-label={say('video.colourOfTheGround')}
            value={framing.ground}
            onChange={({ target }) => set({ ground: target.value })}
          />
        </>
      )}
      {framing && (
        <>
          <span>{framing.way === 'fill' ? say('video.seen') : say('video.place')}</span>
          <span className={styles.middle}>
            <small>{say('video.left')}</small>
            <Middle
              name={say('video.leftToRight')}
              value={now.middle.x}
              onMove={(x, isFirst) => setMiddle({ x }, isFirst)}
            />
            <small>{say('video.right')}</small>
            <small>{say('video.top')}</small>
            <Middle
              name={say('video.topToBottom')}
              value={now.middle.y}
              onMove={(y, isFirst) => setMiddle({ y }, isFirst)}
            />
            <small>{say('video.bottom')}</small>
          </span>
        </>
      )}
    </div>
  )
}

function Middle({ name, ...slider }: { name: string; value: number; onMove: OnChange<number> }) {
  return <MoveSlider {...slider} ariaLabelForHandle={name} min={0} max={1} step={0.05} tooltip={{ formatter: null }} />
}

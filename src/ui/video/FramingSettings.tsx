'use client'

import { Select, Slider } from 'antd'
import type { Framing } from '@/core/lesson/framing'
import { useLesson } from '../lesson/context'
import panel from '../sheet/panel.module.css'
import styles from './video.module.css'

type Choice = 'lesson' | 'plain' | 'blurred' | 'colour' | 'fill'

const LABELS: Record<Exclude<Choice, 'lesson'>, string> = {
  plain: 'all of it, on plain ground',
  blurred: 'all of it, on itself, blurred',
  colour: 'all of it, on a colour',
  fill: 'filling the frame, cut off at its sides',
}

const choiceOf = ({ way, ground }: Framing): Exclude<Choice, 'lesson'> =>
  way === 'fill' ? 'fill' : ground === 'plain' || ground === 'blurred' ? ground : 'colour'

/** How a picture of another shape stands in the frame; null: as the lesson says. */
export function FramingSettings({
  framing,
  onChange,
}: {
  framing: Framing | null
  onChange: (framing: Framing | null) => void
}) {
  const usual = useLesson().framing
  return (
    <FramingFields
      framing={framing}
      usual={usual}
      extra={{ value: 'lesson', label: `as all: ${LABELS[choiceOf(usual)]}` }}
      onChange={onChange}
    />
  )
}

/** The same for the lesson's own: there is nothing it could follow. */
export function UsualFramingSettings({ onChange }: { onChange: (framing: Framing) => void }) {
  const usual = useLesson().framing
  return <FramingFields framing={usual} usual={usual} onChange={(framing) => framing && onChange(framing)} />
}

interface FramingFieldsProps {
  framing: Framing | null
  usual: Framing
  extra?: { value: 'lesson'; label: string }
  onChange: (framing: Framing | null) => void
}

function FramingFields({ framing, usual, extra, onChange }: FramingFieldsProps) {
  const now = framing ?? usual
  const set = (part: Partial<Framing>) => onChange({ ...now, ...part })
  const choose = (choice: Choice) => {
    if (choice === 'lesson') onChange(null)
    else if (choice === 'fill') set({ way: 'fill' })
    else set({ way: 'whole', ground: choice === 'colour' ? '#4a5a6a' : choice })
  }
  const own = Object.entries(LABELS).map(([value, label]) => ({ value: value as Choice, label }))
  return (
    <div className={panel.fields}>
      <span>Stands</span>
      <Select<Choice>
        aria-label="How a picture of another shape stands in the frame"
        value={framing ? choiceOf(framing) : 'lesson'}
        options={extra ? [extra, ...own] : own}
        onChange={choose}
      />
      {framing && choiceOf(framing) === 'colour' && (
        <>
          <span>Ground</span>
          <input
            type="color"
            aria-label="Colour of the ground"
            value={framing.ground}
            onChange={({ target }) => set({ ground: target.value })}
          />
        </>
      )}
      {framing && (
        <>
          <span>{framing.way === 'fill' ? 'Seen' : 'Place'}</span>
          <span className={styles.middle}>
            <small>left</small>
            <Middle name="Left to right" value={now.middle.x} onChange={(x) => set({ middle: { ...now.middle, x } })} />
            <small>right</small>
            <small>top</small>
            <Middle name="Top to bottom" value={now.middle.y} onChange={(y) => set({ middle: { ...now.middle, y } })} />
            <small>bottom</small>
          </span>
        </>
      )}
    </div>
  )
}

function Middle({ name, value, onChange }: { name: string; value: number; onChange: (value: number) => void }) {
  return (
    <Slider
      key={value}
      ariaLabelForHandle={name}
      min={0}
      max={1}
      step={0.05}
      defaultValue={value}
      tooltip={{ formatter: null }}
      onChangeComplete={onChange}
    />
  )
}

'use client'

import { Popover, Select } from 'antd'
import { stepAt } from '@/core/lesson/layout'
import type { BedCue } from '@/core/lesson/document'
import type { Seconds } from '@/core/units'
import { clock } from '../../format'
import { useDesk, useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { NumberField } from '../../parts/NumberField'
import { SecondsField } from '../../parts/SecondsField'
import styles from '../panel.module.css'

/** Less of a piece than a second is nothing to lay under a lesson. */
const SHORTEST: Seconds = 1

/** Where a piece ends, which part of it is used, and how it stands against the voice and the piece before it. */
export function BedSettings({ cue }: { cue: BedCue }) {
  return (
    <Popover trigger="click" placement="left" content={<BedFields cue={cue} />} destroyOnHidden>
      <button className={styles.more}>more…</button>
    </Popover>
  )
}

/** All that is set for one piece. */
export function BedFields({ cue }: { cue: BedCue }) {
  const { store } = useDesk()
  const lesson = useLesson()
  const timeline = useTimeline()
  const length = useLessonState(({ media }) => media.get(cue.media)?.length ?? 0)
  const set = (part: Partial<BedCue>) => store.getState().edit({ name: 'setBed', cue: { ...cue, ...part } })
  const start = timeline.beds.find((bed) => bed.cue.id === cue.id)?.start ?? 0
  const first = stepAt(timeline, start)?.index ?? 0
  const ends = [
    { value: '', label: 'as long as it can' },
    ...lesson.steps.slice(first).map(({ id, title }, i) => ({ value: id, label: `step ${first + i + 1}, ${title}` })),
  ]
  const isFollowing = timeline.beds.findIndex((bed) => bed.cue.id === cue.id) > 0
  return (
    <div className={styles.bedFields}>
      <span>Plays until the end of</span>
      <Select
        aria-label="Last step of the piece"
        value={cue.last ?? ''}
        options={ends}
        onChange={(last) => set({ last: last || null })}
      />
      <SecondsField
        label={`Used from (of ${clock(length, false)})`}
        value={cue.from}
        most={Math.max(0, (cue.to ?? length) - SHORTEST)}
        onChange={(from) => set({ from })}
      />
      <SecondsField
        label="Used to"
        value={cue.to ?? length}
        least={Math.min(length, cue.from + SHORTEST)}
        most={length}
        onChange={(to) => set({ to: to < length ? to : null })}
      />
      <span>Clearance of its own</span>
      <NumberField
        aria-label="Clearance of this piece"
        min={3}
        max={40}
        style={{ width: '100%' }}
        placeholder={`${lesson.targets.clearance}, the lesson’s`}
        value={cue.clearance}
        suffix="LU"
        onChange={(clearance) => set({ clearance })}
      />
      {isFollowing && (
        <SecondsField label="Blended with the piece before" value={cue.blend} onChange={(blend) => set({ blend })} />
      )}
      <span>Fades in over</span>
      <FadeLength label="Fades in over" value={cue.fadeIn} usual="at once" onChange={(fadeIn) => set({ fadeIn })} />
      <span>Fades out over</span>
      <FadeLength
        label="Fades out over"
        value={cue.fadeOut}
        usual="after the last word"
        onChange={(fadeOut) => set({ fadeOut })}
      />
      {(cue.fadeIn !== null || cue.fadeOut !== null) && (
        <>
          <span>It fades</span>
          <Select
            aria-label="Shape of the fades"
            value={cue.fadeShape}
            options={[
              { value: 'smooth', label: 'gently at both ends' },
              { value: 'straight', label: 'evenly' },
            ]}
            onChange={(fadeShape) => set({ fadeShape })}
          />
        </>
      )}
    </div>
  )
}

interface FadeLengthProps {
  label: string
  value: Seconds | null
  /** What happens where nothing is typed. */
  usual: string
  onChange: (value: Seconds | null) => void
}

function FadeLength({ label, value, usual, onChange }: FadeLengthProps) {
  return (
    <NumberField
      aria-label={label}
      min={0}
      max={120}
      style={{ width: '100%' }}
      step={0.5}
      placeholder={usual}
      value={value}
      suffix="s"
      onChange={onChange}
    />
  )
}

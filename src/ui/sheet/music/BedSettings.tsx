'use client'

import { Popover, Select } from 'antd'
import { stepAt } from '@/core/lesson/layout'
import type { BedCue } from '@/core/lesson/document'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
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
      <button className={styles.more}>{say('music.more')}</button>
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
    { value: '', label: say('music.asLongAsIt') },
    ...lesson.steps
      .slice(first)
      .map(({ id, title }, i) => ({ value: id, label: say('music.step', { first: first + i + 1, title }) })),
  ]
  const isEndGone = cue.last !== null && !ends.some(({ value }) => value === cue.last)
  const isFollowing = timeline.beds.findIndex((bed) => bed.cue.id === cue.id) > 0
  return (
    <div className={styles.bedFields}>
      <span>{say('music.playsUntilTheEnd')}</span>
      <Select
        aria-label={say('music.lastStepOfThe')}
        value={isEndGone ? null : (cue.last ?? '')}
        placeholder={say('music.chooseItsEnd')}
        options={ends}
        onChange={(last) => set({ last: last || null })}
      />
      <SecondsField
        label={say('music.usedFromOf', { count: clock(length, false) })}
        value={cue.from}
        most={Math.max(0, (cue.to ?? length) - SHORTEST)}
        onChange={(from) => set({ from })}
      />
      <SecondsField
        label={say('music.usedTo')}
        value={cue.to ?? length}
        least={Math.min(length, cue.from + SHORTEST)}
        most={length}
        onChange={(to) => set({ to: to < length ? to : null })}
      />
      <span>{say('music.clearanceOfItsOwn')}</span>
      <NumberField
        aria-label={say('music.clearanceOfThisPiece')}
        min={3}
        max={40}
        style={{ width: '100%' }}
        placeholder={say('music.theLessons', { clearance: lesson.targets.clearance })}
        value={cue.clearance}
        suffix="LU"
        onChange={(clearance) => set({ clearance })}
      />
      {isFollowing && (
        <SecondsField label={say('music.blendedWithThePiece')} value={cue.blend} onChange={(blend) => set({ blend })} />
      )}
      <span>{say('music.fadesInOver')}</span>
      <FadeLength
        label={say('music.fadesInOver')}
        value={cue.fadeIn}
        usual={say('music.atOnce')}
        onChange={(fadeIn) => set({ fadeIn })}
      />
      <span>{say('music.fadesOutOver')}</span>
      <FadeLength
        label={say('music.fadesOutOver')}
        value={cue.fadeOut}
        usual={say('music.afterTheLastWord')}
        onChange={(fadeOut) => set({ fadeOut })}
      />
      {(cue.fadeIn !== null || cue.fadeOut !== null) && (
        <>
          <span>{say('music.itFades')}</span>
          <Select
            aria-label={say('music.shapeOfTheFades')}
            value={cue.fadeShape}
            options={[
              { value: 'smooth', label: say('music.gentlyAtBothEnds') },
              { value: 'straight', label: say('music.evenly') },
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

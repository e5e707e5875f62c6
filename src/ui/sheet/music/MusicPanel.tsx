'use client'

import { DeleteOutlined } from '@ant-design/icons'
import { Button, Select } from 'antd'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import { newBed } from '@/core/lesson/newParts'
import { stepAt } from '@/core/lesson/layout'
import { CORRIDOR } from '@/core/mix/balanceSheet'
import { percent } from '../../format'
import { useDesk, useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { WCAG_CLEARANCE } from '@/core/mix/nearer'
import { TargetSlider } from '../../lesson/TargetSlider'
import { sayMark } from '../../words/anchors'
import { BedSettings } from './BedSettings'
import { onDemand } from '../../parts/onDemand'
import { LooseThings } from '../LooseThings'
import { Tracks } from './Tracks'
import styles from '../panel.module.css'

const ComposeBed = onDemand(() => import('./ComposeBed').then((part) => part.ComposeBed))

export function MusicPanel() {
  return (
    <>
      <Measured />
      <TargetSlider target="clearance" />
      <p className={styles.note} style={{ marginBottom: 8 }}>
        The mark at {WCAG_CLEARANCE} LU is what WCAG 2.2 asks of background sound.
      </p>
      <TargetSlider target="swell" />
      <TargetSlider target="pauseFrom" />
      <Pieces />
      <Tracks />
    </>
  )
}

function Measured() {
  const shares = useLessonState(({ mix }) => mix?.shares)
  const target = useLesson().targets.clearance
  if (!shares || shares.within === null) {
    return (
      <p className={styles.note} style={{ marginBottom: 10 }}>
        There is no music under a voice yet.
      </p>
    )
  }
  return (
    <p className={styles.measured} data-held={shares.within >= 0.98 ? 'yes' : 'no'}>
      <b data-testid="within">{percent(shares.within)}</b> of spoken time within {target} ± {CORRIDOR} LU
    </p>
  )
}

function Pieces() {
  const { store } = useDesk()
  const lesson = useLesson()
  const timeline = useTimeline()
  const selected = useLessonState((state) => state.selected[0])
  const state = useLessonState((all) => all)
  const { media } = state
  const [piece, setPiece] = useState<string | null>(null)
  const [composes, setComposes] = useState(false)
  const { edit } = store.getState()
  const titleOf = (hash: string) => lesson.shelf.find((item) => item.media === hash)?.title ?? 'a missing file'
  const first = (start: number) => (stepAt(timeline, start)?.index ?? 0) + 1
  const last = (end: number) => (timeline.steps.findLast((span) => span.start < end - 1e-6)?.index ?? 0) + 1
  const sounds = lesson.shelf.filter((item) => item.kind === 'sound' || (media.get(item.media)?.channels ?? 0) > 0)
  const steps = lesson.steps.map(({ id, title }, i) => ({ value: id, label: `${i + 1}. ${title}` }))
  return (
    <>
      <h2 className={styles.heading} style={{ marginTop: 8 }}>
        Pieces
      </h2>
      <LooseThings which={({ kind }) => kind === 'bed' || kind === 'nudge'} />
      <ul className={styles.list}>
        {timeline.beds.map(({ cue, start, end }) => (
          <li key={cue.id} className={styles.sound}>
            <span>
              {titleOf(cue.media)}
              <small>
                under steps {first(start)} to {last(end)}
                {cue.begins.kind === 'mark' && `, from ${sayMark(state, cue.begins.mark) ?? 'a place in the voice'} on`}
              </small>
            </span>
            <Select
              size="small"
              aria-label="Starts with step"
              style={{ width: 130 }}
              value={stepAt(timeline, start)?.step.id}
              options={steps}
              onChange={(step) => edit({ name: 'moveBed', cue: cue.id, step })}
            />
            <Button
              size="small"
              type="text"
              icon={<DeleteOutlined />}
              aria-label={`Take ${titleOf(cue.media)} out of the lesson`}
              onClick={() => edit({ name: 'removeBed', cue: cue.id })}
            />
            <BedSettings cue={cue} />
          </li>
        ))}
      </ul>
      <div className={styles.actions} style={{ margin: '0 0 8px' }}>
        <Button size="small" type="primary" onClick={() => setComposes(true)}>
          Make a piece…
        </Button>
      </div>
      {composes && <ComposeBed onClose={() => setComposes(false)} />}
      <div style={{ display: 'flex', gap: 8 }}>
        <Select
          size="small"
          style={{ flex: 1, minWidth: 0 }}
          placeholder="A piece from the shelf"
          aria-label="Piece of music to add"
          value={piece}
          options={sounds.map((item) => ({ value: item.media, label: item.title }))}
          onChange={setPiece}
        />
        <Button
          size="small"
          disabled={!piece || !selected}
          onClick={() => piece && selected && edit({ name: 'addBed', cue: newBed(nanoid(10), piece, selected) })}
        >
          {selected ? `Start at step ${lesson.steps.findIndex(({ id }) => id === selected) + 1}` : 'Select a step'}
        </Button>
      </div>
    </>
  )
}

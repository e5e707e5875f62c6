'use client'

import { DeleteOutlined } from '@/ui/parts/icons'
import { Button, Select } from 'antd'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import { newBed } from '@/core/lesson/newParts'
import { stepAt } from '@/core/lesson/layout'
import { CORRIDOR } from '@/core/mix/balanceSheet'
import { percent } from '../../format'
import { useDesk, useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { WCAG_CLEARANCE } from '@/core/mix/nearer'
import { say } from '@/messages/say'
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
        {say('music.theMarkAtLu', { clearance: WCAG_CLEARANCE })}
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
        {say('music.thereIsNoMusic')}
      </p>
    )
  }
  return (
    <p className={styles.measured} data-held={shares.within >= 0.98 ? 'yes' : 'no'}>
      {say.rich('balance.within', {
        share: percent(shares.within),
        clearance: target,
        corridor: CORRIDOR,
        b: (share) => <b data-testid="within">{share}</b>,
      })}
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
  const titleOf = (hash: string) => lesson.shelf.find((item) => item.media === hash)?.title ?? say('music.aMissingFile')
  const first = (start: number) => (stepAt(timeline, start)?.index ?? 0) + 1
  const last = (end: number) => (timeline.steps.findLast((span) => span.start < end - 1e-6)?.index ?? 0) + 1
  const sounds = lesson.shelf.filter((item) => item.kind === 'sound' || (media.get(item.media)?.channels ?? 0) > 0)
  const steps = lesson.steps.map(({ id, title }, i) => ({ value: id, label: `${i + 1}. ${title}` }))
  return (
    <>
      <h2 className={styles.heading} style={{ marginTop: 8 }}>
        {say('music.pieces')}
      </h2>
      <LooseThings which={({ kind }) => kind === 'bed' || kind === 'bed-end' || kind === 'nudge'} />
      <ul className={styles.list}>
        {timeline.beds.map(({ cue, start, end }) => (
          <li key={cue.id} className={styles.sound}>
            <span>
              {titleOf(cue.media)}
              <small>
                {cue.begins.kind === 'mark'
                  ? say('music.underStepsFrom', {
                      first: first(start),
                      last: last(end),
                      mark: sayMark(state, cue.begins.mark) ?? say('music.aPlaceInTheVoice'),
                    })
                  : say('music.underSteps', { first: first(start), last: last(end) })}
              </small>
            </span>
            <Select
              size="small"
              aria-label={say('music.startsWithStep')}
              style={{ width: 130 }}
              value={stepAt(timeline, start)?.step.id}
              options={steps}
              onChange={(step) => edit({ name: 'moveBed', cue: cue.id, step })}
            />
            <Button
              size="small"
              type="text"
              icon={<DeleteOutlined />}
              aria-label={say('music.takeOutOfThe', { media: titleOf(cue.media) })}
              onClick={() => edit({ name: 'removeBed', cue: cue.id })}
            />
            <BedSettings cue={cue} />
          </li>
        ))}
      </ul>
      <div className={styles.actions} style={{ margin: '0 0 8px' }}>
        <Button size="small" type="primary" onClick={() => setComposes(true)}>
          {say('music.makeAPiece')}
        </Button>
      </div>
      {composes && <ComposeBed onClose={() => setComposes(false)} />}
      <div style={{ display: 'flex', gap: 8 }}>
        <Select
          size="small"
          style={{ flex: 1, minWidth: 0 }}
          placeholder={say('music.aPieceFromThe')}
          aria-label={say('music.pieceOfMusicTo')}
          value={piece}
          options={sounds.map((item) => ({ value: item.media, label: item.title }))}
          onChange={setPiece}
        />
        <Button
          size="small"
          disabled={!piece || !selected}
          onClick={() => piece && selected && edit({ name: 'addBed', cue: newBed(nanoid(10), piece, selected) })}
        >
          {selected
            ? say('music.startAtStep', { number: lesson.steps.findIndex(({ id }) => id === selected) + 1 })
            : say('music.selectAStep')}
        </Button>
      </div>
    </>
  )
}

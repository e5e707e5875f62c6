'use client'

import { Button, Input, Select } from 'antd'
import { nanoid } from 'nanoid'
import { useEffect } from 'react'
import type { Mark, Step } from '@/core/lesson/document'
import {
  CORNERS,
  type Area,
  type CloserLayer,
  type CoverLayer,
  type Layer,
  type PointerLayer,
  type WordsLayer,
} from '@/core/lesson/layers'
import { rampsOf, stackAt, WHOLE } from '@/core/picture/stack'
import { say } from '@/messages/say'
import { useDesk, useLessonState, useTimeline } from '../lesson/context'
import { useTyped } from '../saving/useTyped'
import { clock } from '../format'
import { NumberField } from '../parts/NumberField'
import { SecondsField } from '../parts/SecondsField'
import type { SheetActions } from '../sheet/actions/actions'
import { Fold } from '../sheet/Fold'
import { ThingHead } from '../sheet/selected/ThingHead'
import { markAtCaret, sayMark } from '../words/anchors'
import { layerTitle } from './layerNames'
import { LookSettings } from './LookSettings'
import panel from '../sheet/panel.module.css'
import styles from './over.module.css'

interface LayerProps<L extends Layer> {
  layer: L
  set: (part: Partial<L>, marks?: Mark[]) => void
}

/** What is set for something over a picture: what it says, from when until when, and where it is. */
export function LayerSettings({ step, layer, actions }: { step: Step; layer: Layer; actions: SheetActions }) {
  const { store } = useDesk()
  useSeen(layer)
  const set = (part: Partial<Layer>, marks: Mark[] = []) =>
    store.getState().edit(...(marks.length > 0 ? [{ name: 'placeMarks' as const, marks }] : []), {
      name: 'setLayer',
      step: step.id,
      layer: { ...layer, ...part } as Layer,
    })
  return (
    <>
      <ThingHead
        kind={layer.kind === 'words' ? say('over.words') : say('over.overThePicture')}
        title={layerTitle(layer)}
        place={say('over.dragItOnThe')}
        actions={actions}
      />
      <div className={panel.fields}>
        {layer.kind === 'words' && <Words step={step} layer={layer} />}
        {layer.kind === 'pointer' && <Pointer layer={layer} set={set} />}
        {layer.kind === 'cover' && <Cover step={step} layer={layer} set={set} />}
        {layer.kind === 'closer' && <Closer layer={layer} set={set} />}
        <Lasts step={step} layer={layer} set={set} />
        <span>{say('over.place')}</span>
        <Place area={layer.area} onChange={(area) => set({ area })} />
      </div>
      <div className={panel.actions}>
        <Button size="small" onClick={() => copyToNext()}>
          {say('over.alsoOverTheNext')}
        </Button>
        <Button size="small" disabled={step.layers.at(-1) === layer} onClick={() => move(1)}>
          {say('over.furtherUp')}
        </Button>
        <Button size="small" disabled={step.layers[0] === layer} onClick={() => move(-1)}>
          {say('over.furtherDown')}
        </Button>
      </div>
      <Fold name="look" title={say('over.howWordsAndPointers')}>
        <LookSettings />
      </Fold>
    </>
  )

  function move(by: 1 | -1): void {
    store.getState().edit({ name: 'moveLayer', step: step.id, id: layer.id, by })
  }

  /** The same at the same place, for as long as the next step's picture. */
  function copyToNext(): void {
    const { history, edit, pick } = store.getState()
    const { steps } = history.lesson
    const next = steps[steps.findIndex(({ id }) => id === step.id) + 1]
    const copy = { ...layer, id: nanoid(10), from: null, to: null }
    if (next && edit({ name: 'addLayers', step: next.id, layers: [copy] })) pick({ kind: 'layer', id: copy.id })
  }
}

/** Whoever chooses it wants to see it: the playhead goes to where it is there. */
function useSeen({ id }: Layer): void {
  const { player } = useDesk()
  const timeline = useTimeline()
  useEffect(() => {
    if (player.isPlaying()) return
    const now = stackAt(timeline, player.position())
    if (now?.sides.some(({ layers }) => layers.some(({ layer, share }) => layer.id === id && share === 1))) return
    const span = timeline.layers.find(({ layer }) => layer.id === id)
    if (span) player.seek(Math.min(span.end - 0.01, (rampsOf(span).comes?.end ?? span.start) + 0.02))
    // Only when it is chosen.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [id])
}

function Words({ step, layer }: { step: Step; layer: WordsLayer }) {
  const { store } = useDesk()
  const typed = useTyped(layer.text, (text, isFirst) =>
    store.getState().continueEdit({ name: 'setLayer', step: step.id, layer: { ...layer, text } }, isFirst),
  )
  return (
    <>
      <label htmlFor="layer-text">{say('over.text')}</label>
      <Input.TextArea
        id="layer-text"
        autoFocus={layer.text === ''}
        rows={2}
        maxLength={500}
        value={typed.value}
        onChange={(event) => typed.onChange(event.target.value)}
        onBlur={typed.onBlur}
      />
    </>
  )
}

const CORNER_NAMES = {
  'upper left': 'theUpperLeft',
  'upper right': 'theUpperRight',
  'lower left': 'theLowerLeft',
  'lower right': 'theLowerRight',
} as const

function Pointer({ layer, set }: LayerProps<PointerLayer>) {
  if (layer.shape === 'number')
    return (
      <>
        <label htmlFor="layer-number">{say('over.number')}</label>
        <NumberField
          id="layer-number"
          min={0}
          max={99}
          value={layer.number}
          onChange={(number) => number !== null && set({ number })}
        />
      </>
    )
  if (layer.shape !== 'arrow') return null
  return (
    <>
      <span>{say('over.pointsTo')}</span>
      <Select
        aria-label={say('over.whereTheArrowPoints')}
        value={layer.tip}
        options={CORNERS.map((corner) => ({ value: corner, label: say(`over.${CORNER_NAMES[corner]}`) }))}
        onChange={(tip) => set({ tip })}
      />
    </>
  )
}

function Cover({ step, layer, set }: LayerProps<CoverLayer> & { step: Step }) {
  const { player } = useDesk()
  const timeline = useTimeline()
  /** What is under it at the playhead, where that is a recording. */
  const mark = () => {
    const side = stackAt(timeline, player.position())?.sides[0]
    if (!side || side.span.step.id !== step.id) return
    const moves = layer.moves.filter(({ at }) => Math.abs(at - side.at) > 0.05)
    const { x, y } = layer.area
    set({ moves: [...moves, { at: side.at, x, y }].sort((a, b) => a.at - b.at) })
  }
  return (
    <>
      <span>{say('over.coversWith')}</span>
      <Select
        aria-label={say('over.whatItCoversWith')}
        value={layer.way}
        options={[
          { value: 'solid', label: say('over.plainGround') },
          { value: 'blocks', label: say('over.coarseBlocks') },
        ]}
        onChange={(way) => set({ way })}
      />
      {step.picture.kind === 'recording' && (
        <>
          <span>{say('over.moves')}</span>
          <div>
            <Button size="small" onClick={mark}>
              {say('over.itIsHereAt')}
            </Button>
            <ul className={styles.list}>
              {layer.moves.map((move) => (
                <li key={move.at}>
                  {say('over.atOfTheRecording', { at: clock(move.at) })}
                  <Button
                    size="small"
                    type="text"
                    onClick={() => set({ moves: layer.moves.filter((one) => one !== move) })}
                  >
                    {say('over.forget')}
                  </Button>
                </li>
              ))}
            </ul>
          </div>
        </>
      )}
    </>
  )
}

/** A closer look comes and goes back; a slow move goes on for as long as it lasts. */
function Closer({ layer, set }: LayerProps<CloserLayer>) {
  if (layer.ease !== null)
    return (
      <SecondsField
        label={say('over.comesNearerIn')}
        value={layer.ease}
        least={0.1}
        most={60}
        onChange={(ease) => set({ ease })}
      />
    )
  const turn = () => set({ area: layer.begins ?? WHOLE, begins: layer.begins ? null : layer.area })
  return (
    <>
      <span>{say('over.moves')}</span>
      <span>
        {layer.begins ? say('over.fromAPartTo') : say('over.fromTheWholePicture')}{' '}
        <Button size="small" onClick={turn}>
          {say('over.theOtherWay')}
        </Button>
      </span>
    </>
  )
}

/** From when until when it is seen. */
function Lasts({ step, layer, set }: LayerProps<Layer> & { step: Step }) {
  const state = useLessonState((all) => all)
  const row = (label: string, which: 'from' | 'to', usual: string) => {
    const mark = layer[which]
    const word = mark && sayMark(state, mark)
    return (
      <>
        <span>{label}</span>
        <span>
          {mark ? (word ?? say('over.wordsThatAreGone')) : usual}{' '}
          <Button
            size="small"
            disabled={state.caret?.step !== step.id}
            onClick={() => {
              const placed = markAtCaret(state)
              if (placed) set({ [which]: placed.id }, [placed])
            }}
          >
            {say('over.theWordAtThe')}
          </Button>
          {mark && (
            <Button size="small" type="text" onClick={() => set({ [which]: null })}>
              {usual}
            </Button>
          )}
        </span>
      </>
    )
  }
  return (
    <>
      {row(say('over.from'), 'from', say('over.thePicturesBeginning'))}
      {row(say('over.until'), 'to', say('over.thePicturesEnd'))}
    </>
  )
}

const SIDES = [
  ['x', 'over.left'],
  ['y', 'over.top'],
  ['width', 'over.width'],
  ['height', 'over.height'],
] as const

/** Where it is, in hundredths of the picture. */
function Place({ area, onChange }: { area: Area; onChange: (area: Area) => void }) {
  return (
    <div className={styles.place}>
      {SIDES.map(([key, label]) => (
        <label key={key}>
          {say(label)}
          <NumberField
            size="small"
            min={key === 'x' || key === 'y' ? -100 : 2}
            max={150}
            step={1}
            suffix="%"
            value={Math.round(area[key] * 1000) / 10}
            onChange={(value) => value !== null && onChange({ ...area, [key]: value / 100 })}
          />
        </label>
      ))}
    </div>
  )
}

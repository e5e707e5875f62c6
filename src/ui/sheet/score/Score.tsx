'use client'

import {
  MinusOutlined,
  PlusOutlined,
  QuestionCircleOutlined,
  SearchOutlined,
  UnorderedListOutlined,
} from '@/ui/parts/icons'
import {
  DndContext,
  MouseSensor,
  pointerWithin,
  TouchSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from '@dnd-kit/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { Button, Segmented, Tooltip } from 'antd'
import { useCallback, useEffect, useMemo, useRef, type CSSProperties, type ReactNode } from 'react'
import type { Lesson, Step } from '@/core/lesson/document'
import { isOutdated, isStandIn } from '@/core/lesson/takes'
import type { Timeline } from '@/core/lesson/timeline'
import { say } from '@/messages/say'
import { useDesk, useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { shownKeys } from '../../keys'
import { isApple } from '../../system'
import { BringIn } from '../../uploads/BringIn'
import { CaretSaid } from './CaretSaid'
import { Playhead } from './Playhead'
import { Row, rowId } from './Row'
import { caretTime, selectionOf } from '../../words/caret'
import { inOrder } from '../../words/inOrder'
import { SheetMenu } from '../actions/SheetMenu'
import type { SheetActions } from '../actions/actions'
import { useWordMeasure } from './rowWords'
import { useRowContents } from './rowContents'
import { useMeasuredWidth } from '../../parts/useMeasuredWidth'
import { isInSight, useZoom } from './useZoom'
import { geometryOf, rowHeight, useSheetView, WAVE_HEIGHTS, type SheetGeometry } from './view'
import styles from '../sheet.module.css'

const OVERSCAN = 3

interface ScoreProps {
  actions: SheetActions
  /** The search, while it is open. */
  find: ReactNode
}

export function Score({ actions, find }: ScoreProps) {
  const { store, player } = useDesk()
  const lesson = useLesson()
  const timeline = useTimeline()
  const selected = useLessonState((state) => state.selected)
  const caret = useLessonState((state) => state.caret)
  const { pixelsPerSecond, waveHeight } = useSheetView()
  const [width, measured] = useMeasuredWidth(840)
  const scroller = useRef<HTMLDivElement>(null)
  const geometry = useMemo(() => geometryOf(pixelsPerSecond, waveHeight, width), [pixelsPerSecond, waveHeight, width])
  // Heights follow from lengths and scale; new functions tell the virtual list that these have changed.
  const heights = useMemo(
    () => ({
      estimateSize: (i: number) => rowHeight(timeline.steps[i]!.end - timeline.steps[i]!.start, geometry),
      getItemKey: (i: number) => timeline.steps[i]!.step.id,
    }),
    [timeline, geometry],
  )
  const rows = useVirtualizer({
    count: timeline.steps.length,
    getScrollElement: () => scroller.current,
    overscan: OVERSCAN,
    ...heights,
  })
  useZoom(scroller, rows, timeline, geometry)

  const contents = useRowContents(lesson, timeline)
  const measure = useWordMeasure()
  const chosen = useMemo(() => selectionOf(lesson.steps, caret), [lesson.steps, caret])
  const onSelect = useCallback(
    (step: string, how: { add: boolean; range: boolean }) => {
      const state = store.getState()
      state.select(
        nextSelection(
          state.history.lesson.steps.map(({ id }) => id),
          state.selected,
          step,
          how,
        ),
        { step, word: 0 },
      )
      player.seek(caretTime(store.getState(), { step, word: 0 }))
    },
    [store, player],
  )
  const onCaret = useCallback(
    (step: string, word: number, extend: boolean) => {
      const { caret: before, select, history } = store.getState()
      const anchor = extend && before ? (before.anchor ?? { step: before.step, word: before.word }) : undefined
      const back = selectionOf(history.lesson.steps, { step, word, anchor }).get(step)?.from === word
      // A selection ends after the word that was clicked on.
      select([step], anchor ? { step, word: back ? word : word + 1, anchor } : { step, word })
      player.seek(caretTime(store.getState(), { step, word }))
    },
    [store, player],
  )

  // A finger that moves at once scrolls; one that rests takes hold.
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
  )
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return
    const { selected: chosen, edit } = store.getState()
    const all = lesson.steps.map(({ id }) => id)
    const steps = chosen.includes(String(active.id)) ? inOrder(all, chosen) : [String(active.id)]
    const target = all.indexOf(String(over.id))
    // Dragged down, steps come after the row they are dropped on; dragged up, before it.
    const before = all.indexOf(String(active.id)) < target ? (all[target + 1] ?? null) : all[target]!
    edit({ name: 'moveSteps', steps, before })
  }

  // The caret must be in sight wherever the keys have taken it.
  const caretIndex = timeline.steps.findIndex(({ step }) => step.id === caret?.step)
  useEffect(() => {
    if (caretIndex >= 0 && !isInSight(rows, caretIndex)) rows.scrollToIndex(caretIndex, { align: 'auto' })
  }, [rows, caretIndex])

  return (
    <section
      className={styles.score}
      style={{ '--left': `${geometry.left}px`, '--right': `${geometry.right}px` } as CSSProperties}
      aria-label={say('score.sheet')}
      ref={measured}
    >
      <Ruler geometry={geometry} />
      <CaretSaid />
      <div className={styles.scroll} ref={scroller} data-testid="score">
        {timeline.steps.length === 0 && <EmptySheet />}
        <DndContext
          sensors={sensors}
          collisionDetection={pointerWithin}
          onDragEnd={onDragEnd}
          accessibility={{ announcements: announcementsOf(timeline) }}
        >
          <SheetMenu actions={actions}>
            <div
              className={styles.content}
              style={{ height: rows.getTotalSize() }}
              role="grid"
              tabIndex={0}
              aria-label={say('score.steps')}
              aria-rowcount={timeline.steps.length}
              aria-multiselectable
              aria-activedescendant={caret ? rowId(caret.step) : undefined}
            >
              {rows.getVirtualItems().map((item) => {
                const span = timeline.steps[item.index]
                if (!span) return null
                return (
                  <div
                    key={item.key}
                    className={styles.slot}
                    role="presentation"
                    data-start={span.start}
                    style={{ transform: `translateY(${item.start}px)`, height: item.size }}
                  >
                    <Row
                      {...contents.get(span.step.id)!}
                      hasBed={timeline.beds.length > 0}
                      voice={voiceMark(lesson, span.step)}
                      geometry={geometry}
                      measure={measure}
                      selected={selected.includes(span.step.id)}
                      caret={caret?.step === span.step.id ? caret : null}
                      chosen={chosen.get(span.step.id) ?? null}
                      onSelect={onSelect}
                      onCaret={onCaret}
                    />
                  </div>
                )
              })}
              <Playhead rows={rows} geometry={geometry} scroller={scroller} />
            </div>
          </SheetMenu>
        </DndContext>
      </div>
      {find}
      <Tools actions={actions} />
    </section>
  )
}

/** What is read out while steps are dragged. */
function announcementsOf({ steps }: Timeline): Announcements {
  const numberOf = (id: string | number) => (steps.find(({ step }) => step.id === id)?.index ?? 0) + 1
  return {
    onDragStart: ({ active }) => say('score.isHeld', { number: numberOf(active.id) }),
    onDragOver: ({ over }) => (over ? say('score.isOver', { number: numberOf(over.id) }) : say('score.isOverNothing')),
    onDragEnd: ({ over }) => (over ? say('score.isDropped', { number: numberOf(over.id) }) : say('score.isBack')),
    onDragCancel: () => say('score.isBack'),
  }
}

/** Only what asks for something to be done. */
function voiceMark(lesson: Lesson, step: Step): string | null {
  if (isOutdated(lesson, step)) return say('score.scriptChanged')
  return isStandIn(lesson, step) ? say('score.standIn') : null
}

function EmptySheet() {
  return (
    <div className={styles.empty}>
      <h2>{say('score.nothingHereYet')}</h2>
      <p>{say('score.dropSlidesRecordingsNarration')}</p>
      <BringIn type="primary" />
    </div>
  )
}

function Ruler({ geometry }: { geometry: SheetGeometry }) {
  const every = geometry.pixelsPerSecond >= 45 ? 1 : geometry.pixelsPerSecond >= 22 ? 2 : 5
  const marks = Array.from({ length: Math.floor(geometry.lineSeconds / every) + 1 }, (_, i) => i * every)
  return (
    <div className={styles.ruler} aria-hidden="true">
      <span className={styles.rulerLeft}>{say('score.stepColumn')}</span>
      <span className={styles.rulerScale}>
        {marks.map((second) => (
          <span key={second} style={{ left: second * geometry.pixelsPerSecond }}>
            {say('score.s', { second })}
          </span>
        ))}
      </span>
      <span className={styles.rulerRight}>{say('score.lengthColumn')}</span>
    </div>
  )
}

const WAVE_HEIGHT_NAMES = ['score.low', 'score.usual', 'score.tall', 'score.tallest'] as const

function Tools({ actions }: Pick<ScoreProps, 'actions'>) {
  const aligning = useLessonState((state) => state.aligning)
  const { pixelsPerSecond, waveHeight, setScale, setWaveHeight } = useSheetView()
  return (
    <div className={styles.tools}>
      <BringIn />
      <Button size="small" icon={<SearchOutlined />} onClick={actions.find}>
        {say('score.find')}
      </Button>
      <Tooltip title={say('score.everything', { keys: shownKeys('mod+k', isApple()) })}>
        <Button size="small" icon={<UnorderedListOutlined />} onClick={actions.commands}>
          {say('score.whatToDo')}
        </Button>
      </Tooltip>
      {aligning > 0 && <span role="status">{say('score.findingWords', { count: aligning })}</span>}
      <span className={styles.gap} />
      <span className={styles.scales}>
        {say('score.scale')}
        <Button
          size="small"
          icon={<MinusOutlined />}
          aria-label={say('score.smallerScale')}
          onClick={() => setScale(pixelsPerSecond / 1.25)}
        />
        <Button
          size="small"
          icon={<PlusOutlined />}
          aria-label={say('score.largerScale')}
          onClick={() => setScale(pixelsPerSecond * 1.25)}
        />
        <span style={{ marginLeft: 10 }}>{say('score.wave')}</span>
        <Segmented
          size="small"
          aria-label={say('score.heightOfTheWave')}
          value={waveHeight}
          options={WAVE_HEIGHTS.map((value, i) => ({ value, label: say(WAVE_HEIGHT_NAMES[i]!) }))}
          onChange={setWaveHeight}
        />
      </span>
      <Tooltip title={say('score.keys')}>
        <Button
          size="small"
          type="text"
          icon={<QuestionCircleOutlined />}
          aria-label={say('score.listOfKeys')}
          onClick={actions.help}
        />
      </Tooltip>
    </div>
  )
}

function nextSelection(
  all: readonly string[],
  selected: readonly string[],
  step: string,
  { add, range }: { add: boolean; range: boolean },
): string[] {
  if (range && selected.length > 0) {
    const [a, b] = [all.indexOf(selected[0]!), all.indexOf(step)]
    return a <= b ? all.slice(a, b + 1) : all.slice(b, a + 1).reverse()
  }
  if (!add) return [step]
  return selected.includes(step) ? selected.filter((id) => id !== step) : [...selected, step]
}

'use client'

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
import { useMemo, type CSSProperties, type ReactNode } from 'react'
import { say } from '@/messages/say'
import { useDesk } from '../../lesson/context'
import type { LessonStore } from '../../lesson/lessonStore'
import { inOrder } from '../../words/inOrder'
import { useMeasuredWidth } from '../../parts/useMeasuredWidth'
import { SheetMenu } from '../actions/SheetMenu'
import type { SheetActions } from '../actions/actions'
import { CaretSaid } from './CaretSaid'
import { Rows } from './Rows'
import { Tools } from './Tools'
import { geometryOf, useSheetView, type SheetGeometry } from './view'
import styles from '../sheet.module.css'

interface ScoreProps {
  actions: SheetActions
  /** The search, while it is open. */
  find: ReactNode
}

/** What stands around the rows: it changes with the scale, not with the lesson. */
export function Score({ actions, find }: ScoreProps) {
  const { store } = useDesk()
  const { pixelsPerSecond, waveHeight } = useSheetView()
  const [width, measured] = useMeasuredWidth(840)
  const geometry = useMemo(() => geometryOf(pixelsPerSecond, waveHeight, width), [pixelsPerSecond, waveHeight, width])
  // A finger that moves at once scrolls; one that rests takes hold.
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
  )
  const accessibility = useMemo(() => ({ announcements: announcements(store) }), [store])
  return (
    <section
      className={styles.score}
      style={{ '--left': `${geometry.left}px`, '--right': `${geometry.right}px` } as CSSProperties}
      aria-label={say('score.sheet')}
      ref={measured}
    >
      <Ruler geometry={geometry} />
      <CaretSaid />
      <DndContext
        sensors={sensors}
        collisionDetection={pointerWithin}
        onDragEnd={(drag) => moveDragged(store, drag)}
        accessibility={accessibility}
      >
        <SheetMenu actions={actions}>
          <Rows geometry={geometry} />
        </SheetMenu>
      </DndContext>
      {find}
      <Tools actions={actions} />
    </section>
  )
}

function moveDragged(store: LessonStore, { active, over }: DragEndEvent): void {
  if (!over || active.id === over.id) return
  const { selected, edit, history } = store.getState()
  const all = history.lesson.steps.map(({ id }) => id)
  const steps = selected.includes(String(active.id)) ? inOrder(all, selected) : [String(active.id)]
  const target = all.indexOf(String(over.id))
  // Dragged down, steps come after the row they are dropped on; dragged up, before it.
  const before = all.indexOf(String(active.id)) < target ? (all[target + 1] ?? null) : all[target]!
  edit({ name: 'moveSteps', steps, before })
}

/** What is read out while steps are dragged. */
function announcements(store: LessonStore): Announcements {
  const numberOf = (id: string | number) =>
    store.getState().history.lesson.steps.findIndex((step) => step.id === id) + 1
  return {
    onDragStart: ({ active }) => say('score.isHeld', { number: numberOf(active.id) }),
    onDragOver: ({ over }) => (over ? say('score.isOver', { number: numberOf(over.id) }) : say('score.isOverNothing')),
    onDragEnd: ({ over }) => (over ? say('score.isDropped', { number: numberOf(over.id) }) : say('score.isBack')),
    onDragCancel: () => say('score.isBack'),
  }
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

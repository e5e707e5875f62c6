'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import { memo, useCallback, useEffect, useMemo, useRef } from 'react'
import type { Lesson, Step } from '@/core/lesson/document'
import { isOutdated, isStandIn } from '@/core/lesson/takes'
import { say } from '@/messages/say'
import { useDesk, useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { BringIn } from '../../uploads/BringIn'
import { caretTime, selectionOf } from '../../words/caret'
import { Playhead } from './Playhead'
import { Row, rowId } from './Row'
import { useRowContents } from './rowContents'
import { useWordMeasure } from './rowWords'
import { bringIntoSight, useZoom } from './useZoom'
import { rowHeight, type SheetGeometry, useSheetView } from './view'
import styles from '../sheet.module.css'

const OVERSCAN = 3

/** The steps as rows, of which only those in sight are there. */
export const Rows = memo(function Rows({ geometry }: { geometry: SheetGeometry }) {
  const { store, player } = useDesk()
  const lesson = useLesson()
  const timeline = useTimeline()
  const selected = useLessonState((state) => state.selected)
  const caret = useLessonState((state) => state.caret)
  const scroller = useRef<HTMLDivElement>(null)
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
      // Who goes to a word may be about to hang something there; who chooses a step wants to see that.
      useSheetView.getState().setPanel('selected')
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

  // The caret must be in sight wherever the keys have taken it.
  const caretIndex = timeline.steps.findIndex(({ step }) => step.id === caret?.step)
  useEffect(() => {
    if (caretIndex >= 0) bringIntoSight(rows, caretIndex)
  }, [rows, caretIndex])

  return (
    <div className={styles.scroll} ref={scroller} data-testid="score">
      {timeline.steps.length === 0 && <EmptySheet />}
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
                index={item.index}
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
    </div>
  )
})

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

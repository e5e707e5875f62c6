'use client'

import { takeSpeech } from '@/core/measure/takeVoice'
import { useState, type PointerEvent } from 'react'
import type { PassageSpan } from '@/core/lesson/timeline'
import type { SpeechSegment } from '@/core/measure/speech'
import { clamp, type Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../../lesson/context'
import { retime } from '../../words/retime'
import type { LineProps } from './rowProps'
import { WORDS_HEIGHT } from './view'
import styles from './row.module.css'

/** Dragged edges catch on edges of speech that are as near as this, in pixels; with Alt they don't. */
const CATCH = 6

/** Edges of the passages and of the word at the caret, to be dragged to the millisecond. */
export function WaveHandles(props: LineProps & { from: Seconds; to: Seconds }) {
  const { span, passages, words, caret, from, to, geometry } = props
  const analyses = useLessonState((state) => state.analyses)
  const { store } = useDesk()
  const word = caret && caret.anchor === undefined ? words[caret.word] : undefined
  const within = (time: Seconds) => time >= from - 1e-6 && time <= to + 1e-6
  const speechOf = ({ passage }: PassageSpan) => {
    const analysis = analyses.get(passage.media)
    return analysis ? takeSpeech(analysis) : []
  }
  const shared = { geometry, lineFrom: from }
  return (
    <>
      {passages.flatMap((one) => {
        const { passage, start, end } = one
        const trim = (edge: 'from' | 'to', by: Seconds) => {
          const at = caught(passage[edge] + by, speechOf(one), CATCH / geometry.pixelsPerSecond)
          return edge === 'from' ? clamp(at, 0, passage.to - LEAST) : Math.max(at, passage.from + LEAST)
        }
        const commit = (edge: 'from' | 'to', at: Seconds) =>
          store.getState().edit({
            name: 'trimPassage',
            passage: passage.id,
            from: edge === 'from' ? at : passage.from,
            to: edge === 'to' ? at : passage.to,
          })
        return (['from', 'to'] as const)
          .filter((edge) => within(edge === 'from' ? start : end))
          .map((edge) => (
            <Handle
              key={`${passage.id} ${edge}`}
              {...shared}
              time={edge === 'from' ? start : end}
              label={edge === 'from' ? say('score.beginningOfWhatIs') : say('score.endOfWhatIs')}
              moved={(by, free) => (free ? passage[edge] + by : trim(edge, by)) - passage[edge]}
              onDone={(by) => commit(edge, passage[edge] + by)}
              className={styles.edge!}
            />
          ))
      })}
      {word?.text &&
        (['from', 'to'] as const)
          .filter((edge) => within(edge === 'from' ? word.start : word.end))
          .map((edge) => (
            <Handle
              key={`word ${edge}`}
              {...shared}
              time={edge === 'from' ? word.start : word.end}
              label={
                edge === 'from'
                  ? say('score.whereBegins', { text: word.text })
                  : say('score.whereEnds', { text: word.text })
              }
              moved={(by) => by}
              onDone={(by) => {
                const edit = retime(store.getState(), span.step.id, word, edge, by)
                if (edit) store.getState().edit(edit)
              }}
              className={styles.wordEdge!}
            />
          ))}
    </>
  )
}

const LEAST: Seconds = 0.02

function caught(at: Seconds, speech: readonly SpeechSegment[], reach: Seconds): Seconds {
  const edges = speech.flatMap(({ start, end }) => [start, end])
  const near = edges.filter((edge) => Math.abs(edge - at) <= reach)
  return near.sort((a, b) => Math.abs(a - at) - Math.abs(b - at))[0] ?? at
}

interface HandleProps {
  time: Seconds
  lineFrom: Seconds
  geometry: LineProps['geometry']
  label: string
  className: string
  /** How far it goes when it is dragged by so much; `free`: without catching. */
  moved(by: Seconds, free: boolean): Seconds
  onDone(by: Seconds): void
}

/** One push of an arrow key; with Shift further. */
const PUSH: Record<'near' | 'far', Seconds> = { near: 0.01, far: 0.1 }

function Handle({ time, lineFrom, geometry, label, className, moved, onDone }: HandleProps) {
  const [drag, setDrag] = useState<{ x: number; by: Seconds } | null>(null)
  const by = drag?.by ?? 0
  const dragged = (event: PointerEvent) =>
    drag ? moved((event.clientX - drag.x) / geometry.pixelsPerSecond, event.altKey) : 0
  return (
    <span
      className={className}
      style={{
        left: (time + by - lineFrom) * geometry.pixelsPerSecond,
        top: WORDS_HEIGHT,
        height: geometry.waveHeight,
      }}
      title={drag ? `${(by * 1000).toFixed(0)} ms` : say('score.dragOrAnd', { label })}
      aria-label={label}
      role="separator"
      aria-orientation="vertical"
      aria-valuenow={Math.round(time * 1000)}
      aria-valuetext={`${time.toFixed(2)} s`}
      tabIndex={0}
      onKeyDown={(event) => {
        const direction = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
        if (!direction) return
        event.preventDefault()
        onDone(moved(direction * (event.shiftKey ? PUSH.far : PUSH.near), true))
      }}
      onPointerDown={(event) => {
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        setDrag({ x: event.clientX, by: 0 })
      }}
      onPointerMove={(event) => drag && setDrag({ ...drag, by: dragged(event) })}
      onPointerUp={(event) => {
        const last = dragged(event)
        setDrag(null)
        if (Math.abs(last) >= 0.001) onDone(last)
      }}
      onPointerCancel={() => setDrag(null)}
    >
      {drag && <b>{`${by > 0 ? '+' : '−'}${Math.abs(by * 1000).toFixed(0)} ms`}</b>}
    </span>
  )
}

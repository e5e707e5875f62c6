'use client'

import { CaretRightFilled, PauseOutlined } from '@/ui/parts/icons'
import { App, Button, Select, Slider } from 'antd'
import { nanoid } from 'nanoid'
import { useEffect, useRef, useState } from 'react'
import { DEFAULT_WISH, KEY_NAMES, MADE_LICENCE, MOODS, PIECE_KINDS, type Wish } from '@/core/compose/wish'
import { newBed } from '@/core/lesson/newParts'
import type { Timeline } from '@/core/lesson/timeline'
import { say } from '@/messages/say'
import { Dialog } from '../../parts/Dialog'
import { useDesk, useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { NumberField } from '../../parts/NumberField'
import { kindNames } from '../../parts/pieceNames'
import { runJob } from '../../jobs'
import styles from '../panel.module.css'

/** A piece written for this lesson: as long as needed, fuller in its title and close, out of the voice's way in between. */
export function ComposeBed({ onClose }: { onClose: () => void }) {
  const { store } = useDesk()
  const { message } = App.useApp()
  const lesson = useLesson()
  const timeline = useTimeline()
  const selected = useLessonState((state) => state.selected[0])
  const [choice, setChoice] = useState(DEFAULT_WISH)
  const [busy, setBusy] = useState<number | null>(null)
  const isClosed = useRef(false)
  const close = () => {
    isClosed.current = true
    onClose()
  }
  const from = timeline.steps.find(({ step }) => step.id === selected) ?? timeline.steps[0]
  const wish = from && wishFor(choice, timeline, from.start)
  const preview = usePreview()
  const set = (part: Partial<typeof choice>) => {
    preview.stop()
    setChoice({ ...choice, ...part })
  }
  const make = async () => {
    if (!wish || !from) return
    setBusy(0)
    try {
      const { info } = await runJob<'compose'>({ kind: 'compose', wish }, setBusy)
      if (isClosed.current) return
      store.getState().addMedia([info])
      const title = say('music.titleOfPiece', {
        kind: kindNames()[wish.kind],
        mood: say(`music.${wish.mood}`),
        number: String(wish.seed),
      })
      const item = { media: info.hash, kind: 'sound' as const, title, ...MADE_LICENCE }
      store
        .getState()
        .edit(
          { name: 'addBed', cue: newBed(nanoid(10), info.hash, from.step.id) },
          { name: 'putOnShelf', items: [item] },
        )
      close()
    } catch (error) {
      if (isClosed.current) return
      void message.error((error as Error).message)
      setBusy(null)
    }
  }
  return (
    <Dialog
      title={say('music.makeAPieceFor')}
      okText={from ? say('music.makeItFromStep', { from: from.index + 1 }) : say('music.makeIt')}
      okButtonProps={{ disabled: !wish, loading: busy !== null }}
      onOk={() => void make()}
      onCancel={close}
      afterClose={preview.stop}
    >
      <div className={styles.wish}>
        <span>{say('music.kind')}</span>
        <Select
          aria-label={say('music.kindOfPiece')}
          value={choice.kind}
          options={PIECE_KINDS.map((kind) => ({ value: kind, label: kindNames()[kind] }))}
          onChange={(kind) => set({ kind })}
        />
        <span>{say('music.mood')}</span>
        <Select
          aria-label={say('music.mood')}
          value={choice.mood}
          options={MOODS.map((mood) => ({ value: mood, label: say(`music.${mood}`) }))}
          onChange={(mood) => set({ mood })}
        />
        <span>{say('music.tempo')}</span>
        <Slider
          ariaLabelForHandle={say('music.tempo')}
          min={50}
          max={140}
          value={choice.tempo}
          tooltip={{ formatter: (value = 0) => say('music.beatsAMinute', { value }) }}
          onChange={(tempo) => set({ tempo })}
        />
        <span>{say('music.howBusy')}</span>
        <Slider
          ariaLabelForHandle={say('music.howBusy')}
          min={0}
          max={1}
          step={0.1}
          value={choice.density}
          tooltip={{ open: false }}
          marks={{ 0: say('music.sparse'), 1: say('music.busy') }}
          style={{ margin: '10px 18px 22px' }}
          onChange={(density) => set({ density })}
        />
        <span>{say('music.key')}</span>
        <Select
          aria-label={say('music.key')}
          value={choice.key}
          options={KEY_NAMES.map((label, value) => ({ value, label }))}
          onChange={(key) => set({ key })}
        />
        <span>{say('music.number')}</span>
        <span style={{ display: 'flex', gap: 8 }}>
          <NumberField
            aria-label={say('music.numberOfThePiece')}
            min={0}
            max={999_999}
            precision={0}
            value={choice.seed}
            onChange={(seed) => seed !== null && set({ seed })}
          />
          <Button onClick={() => set({ seed: Math.floor(Math.random() * 10_000) })}>{say('music.anotherOne')}</Button>
        </span>
      </div>
      <p className={styles.note} style={{ marginTop: 12 }}>
        {lesson.steps.length === 0 ? say('music.addAStepFirst') : say('music.theSameChoicesAnd')}
      </p>
      {wish && (
        <div className={styles.actions}>
          <Button
            icon={preview.playing ? <PauseOutlined /> : <CaretRightFilled />}
            loading={preview.loading}
            onClick={() => (preview.playing ? preview.stop() : preview.play(wish))}
          >
            {preview.playing ? say('music.stop') : say('music.listenTo15Seconds')}
          </Button>
          <Button href={`/api/pieces/score?wish=${encodeURIComponent(JSON.stringify(wish))}`}>
            {say('music.saveAsMidiFile')}
          </Button>
        </div>
      )}
    </Dialog>
  )
}

/** The piece lasts from its step to the lesson's end; what is silent at both ends is its title and close. */
function wishFor(choice: typeof DEFAULT_WISH, { passages, length }: Timeline, start: number): Wish | null {
  const rest = length - start
  if (rest < 4) return null
  const own = passages.filter(({ end }) => end > start)
  const first = own[0] ? Math.max(0, own[0].start - start) : rest
  const last = own.at(-1) ? own.at(-1)!.end - start : 0
  const sections: Wish['sections'] = [{ kind: first > 2 ? 'title' : 'body', start: 0 }]
  if (first > 2 && first < rest) sections.push({ kind: 'body', start: first })
  if (rest - last > 3 && last > 0) sections.push({ kind: 'close', start: last })
  return { ...choice, length: rest, sections }
}

function usePreview() {
  const audio = useRef<HTMLAudioElement | null>(null)
  const [state, setState] = useState<'idle' | 'loading' | 'playing'>('idle')
  const stop = () => {
    audio.current?.pause()
    audio.current = null
    setState('idle')
  }
  useEffect(() => () => audio.current?.pause(), [])
  const play = (wish: Wish) => {
    stop()
    const element = new Audio(`/api/pieces/preview?wish=${encodeURIComponent(JSON.stringify(wish))}`)
    element.onplaying = () => setState('playing')
    element.onended = stop
    element.onerror = stop
    audio.current = element
    setState('loading')
    void element.play().catch(() => undefined)
  }
  return { play, stop, playing: state === 'playing', loading: state === 'loading' }
}

'use client'

import { App } from 'antd'
import { useCallback, useEffect, useEffectEvent, useRef, useState } from 'react'
import type { RecordingDetails } from '@/core/messages/arrival'
import { roomNoise } from '@/core/measure/quiet'
import { createInputMeter, type InputLevel, type InputMeter } from '@/core/narration/inputLevel'
import type { Hertz, Lufs, Seconds } from '@/core/units'
import type { Hearing } from '@/workers/protocol'
import { say } from '@/messages/say'
import { fetchAnalysis, imported } from '../arrival'
import { useDesk } from '../lesson/context'
import { timelineOf } from '../lesson/lessonStore'
import { openMicrophone, PLAIN_INPUT, type InputChoice, type Microphone } from './microphone'
import { recordVoice, type VoiceRecording } from './recorder'
import { recordingIsIn } from './pieces'
import { takeIntoLesson } from './takeIntoLesson'

/** One step; step after step, each its own take; or one reading over all of them. */
export type RecordingMode = 'step' | 'on' | 'walk'
export type BoothPhase = 'closed' | 'opening' | 'room' | 'ready' | 'counting' | 'recording' | 'saving'

/** Length of the silence in which the room's noise is measured. */
const ROOM_TIME: Seconds = 2
const COUNT: Seconds = 3
const LEVEL_EVERY = 80 // ms
/** One peak of the wave that is written while one records. */
export const PEAK_EVERY: Seconds = 0.05

export interface Booth {
  phase: BoothPhase
  level: InputLevel | null
  /** Seconds still to be counted down, or recorded so far. */
  count: number
  time: Seconds
  room: { media: string; noise: Lufs } | null
  input: InputChoice
  microphone: string
  mode: RecordingMode
  headphones: boolean
  /** Takes that have ended and are not in the lesson yet. */
  arriving: number
  /** What keeps the recording that is made now from being safe, in a sentence. */
  trouble: string | null
  /** What is missing in the take that was recorded last, in a sentence. */
  gaps: string | null
  /** The sentence has been read. */
  closeGaps(): void
  /** Highest samples of what is being recorded, one each PEAK_EVERY. */
  peaks(): readonly number[]
  setMode(mode: RecordingMode): void
  setHeadphones(on: boolean): void
  open(choice?: InputChoice): Promise<void>
  close(): void
  measureRoom(): Promise<void>
  /** Counts in and begins; false where nothing is recorded. */
  start(step: string, punch: RecordingDetails['punch']): Promise<boolean>
  /** The next step is spoken to since this page time. */
  next(since: Seconds): void
  stop(): Promise<void>
}

/** The microphone and what is recorded with it. */
export function useBooth(): Booth {
  const desk = useDesk()
  const { id, store, player, tell } = desk
  const { message } = App.useApp()
  const [phase, setPhase] = useState<BoothPhase>('closed')
  const [level, setLevel] = useState<InputLevel | null>(null)
  const [count, setCount] = useState(0)
  const [time, setTime] = useState<Seconds>(0)
  const [room, setRoom] = useState<Booth['room']>(null)
  const [input, setInput] = useState<InputChoice>(PLAIN_INPUT)
  const [label, setLabel] = useState('')
  const [mode, setMode] = useState<RecordingMode>('step')
  const [headphones, setHeadphones] = useState(false)
  const microphone = useRef<Microphone | null>(null)
  const recording = useRef<VoiceRecording | null>(null)
  const meter = useRef<InputMeter | null>(null)
  const peaks = useRef<number[]>([])
  const isGone = useRef(false)
  const heardBefore = useRef<Hearing>('all')
  const [trouble, setTrouble] = useState<string | null>(null)
  const [gaps, setGaps] = useState<string | null>(null)
  const [arriving, setArriving] = useState(0)
  const ending = useRef<Promise<void>>(Promise.resolve())

  useEffect(() => {
    const timer = setInterval(() => {
      if (!meter.current) return
      setLevel(meter.current.read())
      if (recording.current) setTime(recording.current.time())
      setTrouble(recording.current?.trouble() ?? recording.current?.lost() ?? null)
    }, LEVEL_EVERY)
    isGone.current = false
    return () => {
      clearInterval(timer)
      isGone.current = true
      leave()
    }
  }, [])
  // What is being recorded is ended and goes into the lesson; who leaves while the voice is counted in is not recorded.
  const leave = useEffectEvent(() => {
    const left = microphone.current
    if (recording.current) tell(say('booth.endedByLeaving'))
    void stop().finally(() => left?.close())
    microphone.current = null
  })

  const readPeaks = useCallback(() => peaks.current, [])
  const fail = useCallback((error: unknown) => void message.error((error as Error).message), [message])

  async function open(choice: InputChoice = input): Promise<void> {
    setInput(choice)
    setPhase('opening')
    shut()
    try {
      const opened = await openMicrophone(choice)
      // Who leaves while the browser asks for permission does not want to be heard.
      if (isGone.current) return opened.close()
      const own = createInputMeter(opened.rate)
      const peakOf = peakMeter(opened.rate, (peak) => recording.current && peaks.current.push(peak))
      opened.listen((samples) => {
        own.push(samples)
        peakOf(samples)
      })
      meter.current = own
      microphone.current = opened
      setLabel(opened.label)
      setPhase('ready')
    } catch (error) {
      setPhase('closed')
      fail(error)
    }
  }

  function shut(): void {
    microphone.current?.close()
    microphone.current = null
    meter.current = null
  }

  function close(): void {
    shut()
    setLevel(null)
    setLabel('')
    setPhase('closed')
  }

  /** Records the room alone; it is kept as this sitting's noise. */
  async function measureRoom(): Promise<void> {
    if (!microphone.current) return
    setPhase('room')
    try {
      const details = detailsOf(microphone.current, store.getState().selected[0] ?? 'room', null)
      const recorded = await recordVoice(microphone.current, id, 'room', details)
      await countDown(ROOM_TIME, setCount)
      const info = await imported(await recorded.stop())
      store.getState().addMedia([info])
      await recordingIsIn(recorded.id())
      setRoom({ media: info.hash, noise: roomNoise(await fetchAnalysis(info.hash)) ?? -Infinity })
    } catch (error) {
      fail(error)
    }
    setPhase('ready')
  }

  const detailsOf = ({ rate }: Microphone, step: string, punch: RecordingDetails['punch']): RecordingDetails => ({
    marks: [{ step, at: 0 }],
    punch,
    room: room?.media ?? null,
    trimmed: mode !== 'walk',
    rate,
    voiceAt: null,
    extension: null,
  })

  async function start(step: string, punch: RecordingDetails['punch']): Promise<boolean> {
    if (!microphone.current || recording.current) return false
    player.pause()
    setPhase('counting')
    await countDown(COUNT, setCount)
    if (!microphone.current) return false
    try {
      meter.current?.reset()
      peaks.current = []
      setGaps(null)
      recording.current = await recordVoice(microphone.current, id, 'voice', detailsOf(microphone.current, step, punch))
      setTime(0)
      setPhase('recording')
      listenAlong(step)
    } catch (error) {
      setPhase('ready')
      fail(error)
    }
    return recording.current !== null
  }

  /** Over headphones the lesson is heard from this step on; otherwise it stays silent, so that nothing leaks. */
  function listenAlong(step: string): void {
    if (!headphones) return
    const span = timelineOf(store.getState().history.lesson).steps.find((one) => one.step.id === step)
    heardBefore.current = player.hearing()
    player.listenTo('bed')
    if (span) void player.play(span.start)
  }

  function next(since: Seconds): void {
    if (!recording.current) return
    const { history, select } = store.getState()
    const spokenTo = recording.current.details().marks.at(-1)!.step
    const following = history.lesson.steps[history.lesson.steps.findIndex(({ id }) => id === spokenTo) + 1]
    if (!following) return
    recording.current.mark(following.id, since)
    select([following.id], { step: following.id, word: 0 })
  }

  /** Whoever asks while it is being ended waits for that, too. */
  function stop(): Promise<void> {
    const own = recording.current
    if (!own) return ending.current
    recording.current = null
    ending.current = end(own)
    return ending.current
  }

  async function end(own: VoiceRecording): Promise<void> {
    setPhase('saving')
    setArriving((count) => count + 1)
    if (headphones) {
      player.pause()
      player.listenTo(heardBefore.current)
    }
    try {
      const importId = await own.stop().finally(() => setPhase(microphone.current ? 'ready' : 'closed'))
      // It is safe on the server: while it is read in, the next take can be recorded.
      await takeIntoLesson(desk, own.id(), importId, own.details())
      setGaps(own.lost())
    } catch (error) {
      fail(error)
    }
    setArriving((count) => count - 1)
  }

  return {
    phase,
    level,
    count,
    time,
    room,
    input,
    microphone: label,
    mode,
    headphones,
    arriving,
    trouble,
    gaps,
    closeGaps: () => setGaps(null),
    peaks: readPeaks,
    setMode,
    setHeadphones,
    open,
    close,
    measureRoom,
    start,
    next,
    stop,
  }
}

/** Tells the highest sample of each PEAK_EVERY. */
function peakMeter(rate: Hertz, tell: (peak: number) => void): (samples: Float32Array) => void {
  const length = Math.round(rate * PEAK_EVERY)
  let [peak, count] = [0, 0]
  return (samples) => {
    for (const sample of samples) {
      peak = Math.max(peak, Math.abs(sample))
      if (++count < length) continue
      tell(peak)
      peak = count = 0
    }
  }
}

/** Counts the seconds down, and lets them be seen. */
async function countDown(from: Seconds, show: (left: number) => void): Promise<void> {
  for (let left = from; left > 0; left--) {
    show(left)
    await new Promise((resolve) => setTimeout(resolve, 1000))
  }
  show(0)
}

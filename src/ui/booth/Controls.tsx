'use client'

import { SettingOutlined } from '@ant-design/icons'
import { Button, Checkbox, Popover, Segmented, Select } from 'antd'
import { useEffect, useState } from 'react'
import type { Step } from '@/core/lesson/document'
import { GOOD_LEVEL, roomVerdict, type InputLevel } from '@/core/narration/inputLevel'
import { clamp } from '@/core/units'
import { clock, signed } from '../format'
import { listMicrophones, type InputChoice } from './microphone'
import type { Booth, RecordingMode } from './useBooth'
import styles from './booth.module.css'

const MODES: { value: RecordingMode; label: string }[] = [
  { value: 'step', label: 'This step' },
  { value: 'on', label: 'From here on' },
  { value: 'walk', label: 'Walk through' },
]
const MODE_WORDS: Record<RecordingMode, string> = {
  step: 'R starts and stops. Each go is a take of this step.',
  on: 'Space goes to the next step. Each step gets its own take.',
  walk: 'Keep speaking; Space shows the next picture. The changes are kept as timings.',
}

/** Microphone, room, level, and the button that records. */
export function Controls({
  booth,
  step,
  from,
  onToggle,
}: {
  booth: Booth
  step: Step
  from: number
  onToggle: () => void
}) {
  const { phase, level, room } = booth
  // While it is opened in another way its settings stay where they are.
  if (phase === 'closed' || (phase === 'opening' && !booth.microphone)) {
    return (
      <div className={styles.controls}>
        <Button type="primary" size="large" loading={phase === 'opening'} onClick={() => void booth.open()}>
          Open the microphone
        </Button>
        <span className={styles.hint}>Nothing is recorded until you press record.</span>
      </div>
    )
  }
  const isRecording = phase === 'recording'
  return (
    <div className={styles.controls}>
      <button
        className={styles.record}
        aria-label={isRecording ? 'Stop (R)' : 'Record (R)'}
        data-recording={isRecording}
        disabled={phase !== 'ready' && !isRecording}
        onClick={onToggle}
      >
        <i />
      </button>
      <div className={styles.meterColumn}>
        <LevelBar level={level} />
        <p className={styles.advice} role="status" data-testid="advice">
          {phase === 'room' ? `Say nothing for a moment: listening to the room, ${booth.count}` : adviceOn(level)}{' '}
          {room ? (
            <span data-testid="room">
              Room noise {signed(room.noise, 0)} dB: {ROOM_WORDS[roomVerdict(room.noise)]}
            </span>
          ) : (
            phase === 'ready' && (
              <Button size="small" type="link" onClick={() => void booth.measureRoom()}>
                First measure the room
              </Button>
            )
          )}
        </p>
        <div className={styles.modes}>
          {!isRecording && (
            <Segmented
              size="small"
              aria-label="What to record"
              value={booth.mode}
              options={MODES}
              onChange={booth.setMode}
            />
          )}
          <Checkbox checked={booth.headphones} onChange={(event) => booth.setHeadphones(event.target.checked)}>
            Headphones: hear the music
          </Checkbox>
          <InputSettings booth={booth} />
        </div>
        <p className={styles.hint}>{MODE_WORDS[booth.mode]}</p>
        {booth.trouble && (
          <p className={styles.trouble} role="alert">
            {booth.trouble}
          </p>
        )}
      </div>
      <div className={styles.clock}>
        <b data-testid="recorded-time">{phase === 'saving' ? 'saving…' : clock(booth.time)}</b>
        <span>{sayWhat(booth, step, from)}</span>
      </div>
    </div>
  )
}

const ROOM_WORDS = {
  quiet: 'quiet.',
  usable: 'usable. Clean-up can take it out.',
  noisy: 'noisy. Close windows, turn off fans, come nearer to the microphone.',
}

function sayWhat({ phase, headphones }: Booth, step: Step, from: number): string {
  if (phase === 'counting') return 'get ready'
  if (phase === 'recording') return headphones ? 'music on headphones' : 'lesson sound off'
  return from > 0 ? `from phrase ${from + 1} of ${step.title}` : step.title
}

function adviceOn(level: InputLevel | null): string {
  switch (level?.verdict) {
    case 'clipped':
      return `Clipped ${level.clipped === 1 ? 'once' : `${level.clipped} times`}: turn the microphone down, or move back.`
    case 'too loud':
      return 'Too loud: turn the microphone down, or move back.'
    case 'too quiet':
      return 'Too quiet: come nearer, or turn the microphone up.'
    case 'good':
      return 'Good level.'
    default:
      return 'Nothing is heard: say a few words.'
  }
}

const SCALE = { low: -60, high: 0 }
const place = (value: number) => `${clamp((value - SCALE.low) / (SCALE.high - SCALE.low), 0, 1) * 100}%`

function LevelBar({ level }: { level: InputLevel | null }) {
  return (
    <div className={styles.level} data-verdict={level?.verdict ?? 'silent'} aria-hidden="true">
      <span
        className={styles.good}
        style={{ left: place(GOOD_LEVEL.low), right: `calc(100% - ${place(GOOD_LEVEL.high)})` }}
      />
      <i style={{ width: place(level?.now ?? -Infinity) }} />
      {level && Number.isFinite(level.peak) && <b style={{ left: place(level.peak) }} />}
    </div>
  )
}

function InputSettings({ booth }: { booth: Booth }) {
  const [devices, setDevices] = useState<{ id: string; label: string }[]>([])
  useEffect(() => void listMicrophones().then(setDevices), [booth.microphone])
  const { input } = booth
  const change = (part: Partial<InputChoice>) => void booth.open({ ...input, ...part })
  const content = (
    <div className={styles.inputs}>
      <label>
        Microphone
        <Select
          style={{ width: 280 }}
          value={input.device ?? devices.find(({ label }) => label === booth.microphone)?.id}
          options={devices.map(({ id, label }) => ({ value: id, label }))}
          onChange={(device: string) => change({ device })}
        />
      </label>
      <p>The browser can change the sound by itself. It costs some of the voice, so all of it is off:</p>
      {PROCESSING.map(({ key, label }) => (
        <Checkbox key={key} checked={input[key]} onChange={(event) => change({ [key]: event.target.checked })}>
          {label}
        </Checkbox>
      ))}
      <Button size="small" onClick={booth.close}>
        Close the microphone
      </Button>
    </div>
  )
  return (
    <Popover content={content} trigger="click" title="Input">
      <Button
        size="small"
        type="text"
        icon={<SettingOutlined />}
        disabled={booth.phase !== 'ready' && booth.phase !== 'opening'}
      >
        Input
      </Button>
    </Popover>
  )
}

const PROCESSING = [
  { key: 'echoCancellation', label: 'Take out echo of the loudspeakers' },
  { key: 'noiseSuppression', label: 'Take out noise while recording' },
  { key: 'autoGainControl', label: 'Change the level by itself' },
] as const

'use client'

import { SettingOutlined } from '@/ui/parts/icons'
import { Button, Checkbox, Popover, Segmented, Select } from 'antd'
import { useEffect, useState } from 'react'
import type { Step } from '@/core/lesson/document'
import { GOOD_LEVEL, roomVerdict, type InputLevel } from '@/core/narration/inputLevel'
import { clamp } from '@/core/units'
import { say } from '@/messages/say'
import { clock, signed } from '../format'
import { listMicrophones, type InputChoice } from './microphone'
import type { Booth, RecordingMode } from './useBooth'
import styles from './booth.module.css'

const modes = (): { value: RecordingMode; label: string }[] => [
  { value: 'step', label: say('booth.thisStep') },
  { value: 'on', label: say('booth.fromHereOn') },
  { value: 'walk', label: say('booth.walkThrough') },
]
const modeWords = (): Record<RecordingMode, string> => ({
  step: say('booth.rStartsAndStops'),
  on: say('booth.spaceGoesToThe'),
  walk: say('booth.keepSpeakingSpaceShows'),
})

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
          {say('booth.openTheMicrophone')}
        </Button>
        <span className={styles.hint}>{say('booth.nothingIsRecordedUntil')}</span>
      </div>
    )
  }
  const isRecording = phase === 'recording'
  return (
    <div className={styles.controls}>
      <button
        className={styles.record}
        aria-label={isRecording ? say('booth.stopR') : say('booth.recordR')}
        data-recording={isRecording}
        disabled={phase !== 'ready' && !isRecording}
        onClick={onToggle}
      >
        <i />
      </button>
      <div className={styles.meterColumn}>
        <LevelBar level={level} />
        <p className={styles.advice} role="status" data-testid="advice">
          {phase === 'room' ? say('booth.sayNothingForA', { count: booth.count }) : adviceOn(level)}{' '}
          {room ? (
            <span data-testid="room">
              {say('booth.roomNoiseDb', {
                noise: signed(room.noise, 0),
                verdict: roomWords()[roomVerdict(room.noise)],
              })}
            </span>
          ) : (
            phase === 'ready' && (
              <Button size="small" type="link" onClick={() => void booth.measureRoom()}>
                {say('booth.firstMeasureTheRoom')}
              </Button>
            )
          )}
        </p>
        <div className={styles.modes}>
          {!isRecording && (
            <Segmented
              size="small"
              aria-label={say('booth.whatToRecord')}
              value={booth.mode}
              options={modes()}
              onChange={booth.setMode}
            />
          )}
          <Checkbox checked={booth.headphones} onChange={(event) => booth.setHeadphones(event.target.checked)}>
            {say('booth.headphonesHearTheMusic')}
          </Checkbox>
          <InputSettings booth={booth} />
        </div>
        <p className={styles.hint}>{modeWords()[booth.mode]}</p>
        {booth.trouble && (
          <p className={styles.trouble} role="alert">
            {booth.trouble}
          </p>
        )}
        {booth.arriving > 0 && phase !== 'saving' && (
          <p className={styles.hint} role="status">
            {say('booth.takesArrive', { count: booth.arriving })}
          </p>
        )}
      </div>
      <div className={styles.clock} data-arriving={booth.arriving}>
        <b data-testid="recorded-time">{phase === 'saving' ? say('booth.saving') : clock(booth.time)}</b>
        <span>{sayWhat(booth, step, from)}</span>
      </div>
    </div>
  )
}

const roomWords = () => ({
  quiet: say('booth.quiet'),
  usable: say('booth.usableCleanUpCan'),
  noisy: say('booth.noisyCloseWindowsTurn'),
})

function sayWhat({ phase, headphones }: Booth, step: Step, from: number): string {
  if (phase === 'counting') return say('booth.getReady')
  if (phase === 'recording') return headphones ? say('booth.musicOnHeadphones') : say('booth.lessonSoundOff')
  return from > 0 ? say('booth.fromPhraseOf', { from: from + 1, title: step.title }) : step.title
}

function adviceOn(level: InputLevel | null): string {
  switch (level?.verdict) {
    case 'clipped':
      return say('booth.clipped', { count: level.clipped })
    case 'too loud':
      return say('booth.tooLoudTurnThe')
    case 'too quiet':
      return say('booth.tooQuietComeNearer')
    case 'good':
      return say('booth.goodLevel')
    default:
      return say('booth.nothingIsHeardSay')
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
        {say('booth.microphone')}
        <Select
          style={{ width: 280 }}
          value={input.device ?? devices.find(({ label }) => label === booth.microphone)?.id}
          options={devices.map(({ id, label }) => ({ value: id, label }))}
          onChange={(device: string) => change({ device })}
        />
      </label>
      <p>{say('booth.theBrowserCanChange')}</p>
      {processing().map(({ key, label }) => (
        <Checkbox key={key} checked={input[key]} onChange={(event) => change({ [key]: event.target.checked })}>
          {label}
        </Checkbox>
      ))}
      <Button size="small" onClick={booth.close}>
        {say('booth.closeTheMicrophone')}
      </Button>
    </div>
  )
  return (
    <Popover content={content} trigger="click" title={say('booth.input')}>
      <Button
        size="small"
        type="text"
        icon={<SettingOutlined />}
        disabled={booth.phase !== 'ready' && booth.phase !== 'opening'}
      >
        {say('booth.input')}
      </Button>
    </Popover>
  )
}

const processing = () =>
  [
    { key: 'echoCancellation', label: say('booth.takeOutEcho') },
    { key: 'noiseSuppression', label: say('booth.takeOutNoise') },
    { key: 'autoGainControl', label: say('booth.changeTheLevel') },
  ] as const

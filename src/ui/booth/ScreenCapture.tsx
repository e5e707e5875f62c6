'use client'

import { App, Button, Checkbox } from 'antd'
import { useRef, useState } from 'react'
import type { RecordingDetails } from '@/core/lesson/recording'
import { imported } from '../arrival'
import { useDesk } from '../lesson/context'
import { recordPicture, type PictureRecording, type PictureSource } from './pictureRecorder'
import { takeIntoLesson } from './takeIntoLesson'
import type { Booth } from './useBooth'
import styles from './booth.module.css'

/** The screen, a window or the camera as the picture of this step, with the microphone or without. */
export function ScreenCapture({ step, microphone }: { step: string; microphone: Booth }) {
  const { id, store } = useDesk()
  const { message } = App.useApp()
  const [withVoice, setWithVoice] = useState(false)
  const [state, setState] = useState<'idle' | 'recording' | 'saving'>('idle')
  const running = useRef<{ recording: PictureRecording; details: RecordingDetails } | null>(null)

  const finish = async () => {
    const own = running.current
    if (!own) return
    running.current = null
    setState('saving')
    try {
      if (microphone.phase === 'recording') await microphone.stop()
      const info = await imported(await own.recording.stop())
      await takeIntoLesson(store, own.recording.id, info, own.details)
    } catch (error) {
      void message.error((error as Error).message)
    }
    setState('idle')
  }
  const begin = async (source: PictureSource) => {
    try {
      const marks = [{ step, at: 0 }]
      const { recording, details } = await recordPicture(source, id, marks, () => void finish())
      running.current = { recording, details }
      setState('recording')
      if (withVoice && microphone.phase === 'ready') void microphone.start(step, null)
    } catch (error) {
      void message.error((error as Error).message)
    }
  }
  if (state !== 'idle') {
    return (
      <div className={styles.capture}>
        <Button danger loading={state === 'saving'} onClick={() => void finish()}>
          Stop recording the picture
        </Button>
      </div>
    )
  }
  return (
    <div className={styles.capture}>
      <Button size="small" onClick={() => void begin('screen')}>
        Record the screen…
      </Button>
      <Button size="small" onClick={() => void begin('camera')}>
        Record the camera…
      </Button>
      <Checkbox
        checked={withVoice}
        disabled={microphone.phase !== 'ready'}
        onChange={(event) => setWithVoice(event.target.checked)}
      >
        with voice
      </Checkbox>
    </div>
  )
}

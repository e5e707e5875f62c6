'use client'

import { App, Button, Checkbox } from 'antd'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { say } from '@/messages/say'
import { useDesk } from '../lesson/context'
import { recordPicture, type PictureRecording, type PictureSource } from './pictureRecorder'
import { takeIntoLesson } from './takeIntoLesson'
import type { Booth } from './useBooth'
import styles from './booth.module.css'

interface Capture {
  picture: PictureRecording
  /** Whether a voice is recorded with it; known once it is counted in. */
  voice: Promise<boolean>
}
const NO_VOICE = Promise.resolve(false)

/** The screen, a window or the camera as the picture of this step, with the microphone or without. */
export function ScreenCapture({ step, microphone }: { step: string; microphone: Booth }) {
  const desk = useDesk()
  const { id } = desk
  const { message } = App.useApp()
  const [withVoice, setWithVoice] = useState(false)
  const [state, setState] = useState<'idle' | 'recording' | 'saving'>('idle')
  const running = useRef<Capture | null>(null)

  const finish = async () => {
    const own = running.current
    if (!own) return
    running.current = null
    setState('saving')
    try {
      const stored = own.picture.stop()
      // The voice is laid first: the picture keeps step with it.
      if (await own.voice) await microphone.stop()
      const importId = await stored
      await takeIntoLesson(desk, own.picture.id(), importId, own.picture.details())
    } catch (error) {
      void message.error((error as Error).message)
    }
    setState('idle')
  }
  // Who leaves the booth has finished; what was recorded goes into the lesson.
  const leave = useEffectEvent(() => void finish())
  useEffect(() => () => leave(), [])
  const begin = async (source: PictureSource) => {
    try {
      const picture = await recordPicture(source, id, [{ step, at: 0 }], () => void finish())
      running.current = { picture, voice: withVoice && microphone.phase === 'ready' ? speakTo(picture) : NO_VOICE }
      setState('recording')
    } catch (error) {
      void message.error((error as Error).message)
    }
  }
  const speakTo = async (picture: PictureRecording) => {
    const begun = await microphone.start(step, null)
    if (begun) picture.markVoice()
    return begun
  }
  if (state !== 'idle') {
    return (
      <div className={styles.capture}>
        <Button danger loading={state === 'saving'} onClick={() => void finish()}>
          {say('booth.stopRecordingThePicture')}
        </Button>
      </div>
    )
  }
  return (
    <div className={styles.capture}>
      <Button size="small" onClick={() => void begin('screen')}>
        {say('booth.recordTheScreen')}
      </Button>
      <Button size="small" onClick={() => void begin('camera')}>
        {say('booth.recordTheCamera')}
      </Button>
      <Checkbox
        checked={withVoice}
        disabled={microphone.phase !== 'ready'}
        onChange={(event) => setWithVoice(event.target.checked)}
      >
        {say('booth.withVoice')}
      </Checkbox>
    </div>
  )
}

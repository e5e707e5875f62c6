'use client'

import { Alert, App, Button } from 'antd'
import { useState } from 'react'
import type { WaitingRecording } from '@/core/messages/arrival'
import { say } from '@/messages/say'
import { finishOnServer, throwAway } from '../booth/pieces'
import { takeIntoLesson } from '../booth/takeIntoLesson'
import { clock } from '../format'
import { useDesk } from '../lesson/context'
import { useThrowAway } from './useThrowAway'

/** A recording that was broken off: it becomes a take, or is thrown away. */
export function WaitingRecordingNotice({ recording, onDone }: { recording: WaitingRecording; onDone: () => void }) {
  const desk = useDesk()
  const { message } = App.useApp()
  const [busy, setBusy] = useState(false)
  const length = sayLength(recording)
  const askToDrop = useThrowAway(length, () => throwAway(recording.id).then(onDone))
  const keep = async () => {
    setBusy(true)
    try {
      // An import that has failed is tried again: the recording itself is still there.
      const importId = await finishOnServer(recording.id, null)
      await takeIntoLesson(desk, recording.id, importId, recording.details)
      onDone()
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(false)
  }
  return (
    <Alert
      type="warning"
      showIcon
      data-testid="recovered"
      title={say('booth.aRecordingOfIs', { recording: length })}
      action={
        <>
          <Button size="small" type="primary" loading={busy} onClick={() => void keep()}>
            {say('booth.keepItAsA')}
          </Button>{' '}
          <Button size="small" onClick={askToDrop}>
            {say('booth.throwItAway')}
          </Button>
        </>
      }
    />
  )
}

function sayLength({ kind, bytes, state, details }: WaitingRecording): string {
  if (kind === 'picture' || !details.rate) return say('booth.theScreen')
  return state === 'finished' ? say('booth.yourVoice') : clock(bytes / 4 / details.rate)
}

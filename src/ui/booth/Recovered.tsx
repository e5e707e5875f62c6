'use client'

import { Alert, App, Button } from 'antd'
import { useEffect, useState } from 'react'
import type { WaitingRecording } from '@/core/messages/recording'
import { say } from '@/messages/say'
import { call } from '../api'
import { imported } from '../arrival'
import { clock } from '../format'
import { useDesk } from '../lesson/context'
import { finishOnServer, forget, keptRecordings, sendKept } from './pieces'
import { takeIntoLesson } from './takeIntoLesson'

const LOOK_AGAIN = 5000 // ms: a recording that breaks off now shows up a few seconds later

/** Recordings that were broken off, by a closed tab or worse: kept, or thrown away. */
export function Recovered() {
  const { id, store } = useDesk()
  const { message, modal } = App.useApp()
  const [waiting, setWaiting] = useState<WaitingRecording[]>([])
  const [busy, setBusy] = useState(false)
  useEffect(() => {
    let stopped = false
    const look = async () => {
      const found = await findWaiting(id).catch(() => [])
      if (!stopped) setWaiting(found)
    }
    void look()
    const again = setTimeout(() => void look(), LOOK_AGAIN)
    return () => {
      stopped = true
      clearTimeout(again)
    }
  }, [id])
  const done = (recording: WaitingRecording) => setWaiting((all) => all.filter((one) => one.id !== recording.id))
  const keep = async (recording: WaitingRecording) => {
    setBusy(true)
    try {
      // An import that has failed is tried again: the recording itself is still there.
      const importId = await finishOnServer(recording.id, null)
      await takeIntoLesson(store, recording.id, await imported(importId), recording.details)
      done(recording)
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(false)
  }
  const drop = async (recording: WaitingRecording) => {
    try {
      await call(`/api/recordings/${recording.id}`, { method: 'DELETE' })
      await forget(recording.id)
      done(recording)
    } catch (error) {
      void message.error((error as Error).message)
    }
  }
  const askToDrop = (recording: WaitingRecording) =>
    modal.confirm({
      title: say('booth.throwAway', { recording: sayLength(recording) }),
      content: say('booth.itWasNeverPut'),
      okText: say('booth.throwItAway'),
      okButtonProps: { danger: true },
      cancelText: say('booth.keepItForNow'),
      onOk: () => drop(recording),
    })
  return waiting.map((recording) => (
    <Alert
      key={recording.id}
      type="warning"
      showIcon
      data-testid="recovered"
      title={say('booth.aRecordingOfIs', { recording: sayLength(recording) })}
      action={
        <>
          <Button size="small" type="primary" loading={busy} onClick={() => void keep(recording)}>
            {say('booth.keepItAsA')}
          </Button>{' '}
          <Button size="small" onClick={() => askToDrop(recording)}>
            {say('booth.throwItAway')}
          </Button>
        </>
      }
    />
  ))
}

function sayLength({ kind, bytes, state, details }: WaitingRecording): string {
  if (kind === 'picture' || !details.rate) return say('booth.theScreen')
  return state === 'finished' ? say('booth.yourVoice') : clock(bytes / 4 / details.rate)
}

/** What this browser still has is sent to the server first. */
async function findWaiting(lesson: string): Promise<WaitingRecording[]> {
  const kept = await keptRecordings(lesson).catch(() => [])
  // One that can't be sent now keeps nobody from the others.
  await Promise.allSettled(kept.map(sendKept))
  const known = kept.map(({ id }) => `&kept=${id}`).join('')
  const waiting = await call<WaitingRecording[]>(`/api/recordings?lesson=${lesson}${known}`)
  return waiting.filter(({ kind, bytes, state }) => kind !== 'room' && (bytes > 0 || state === 'finished'))
}

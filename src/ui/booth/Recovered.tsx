'use client'

import { Alert, App, Button } from 'antd'
import { useEffect, useState } from 'react'
import { mediaOf } from '@/core/lesson/usedMedia'
import type { JobStatus } from '@/core/messages/job'
import type { WaitingRecording } from '@/core/messages/recording'
import { say } from '@/messages/say'
import { call } from '../api'
import { clock } from '../format'
import { useDesk } from '../lesson/context'
import { askWaiting, finishOnServer, isBeingMade, keptRecordings, recordingIsIn, sendKept, throwAway } from './pieces'
import { isArriving, takeIntoLesson } from './takeIntoLesson'

const LOOK_SOON = 5000 // ms: a recording that breaks off now shows up a few seconds later
const LOOK_SELDOM = 30_000
const NOTHING: ReadonlySet<string> = new Set()

/** Recordings that were broken off, by a closed tab or worse: kept, or thrown away. */
export function Recovered() {
  const desk = useDesk()
  const { id, store, autosave } = desk
  const { message, modal } = App.useApp()
  const [waiting, setWaiting] = useState<WaitingRecording[]>([])
  const [busy, setBusy] = useState(false)
  useEffect(() => {
    let stopped = false
    let again: ReturnType<typeof setTimeout>
    const look = async (wait: number) => {
      const savedMedia = () => (autosave.count().areSaved ? mediaOf(store.getState().history.lesson) : NOTHING)
      const found = await findWaiting(id, savedMedia).catch(() => [])
      if (stopped) return
      setWaiting(found)
      again = setTimeout(() => void look(LOOK_SELDOM), wait)
    }
    void look(LOOK_SOON)
    return () => {
      stopped = true
      clearTimeout(again)
    }
  }, [id, store, autosave])
  const done = (recording: WaitingRecording) => setWaiting((all) => all.filter((one) => one.id !== recording.id))
  const keep = async (recording: WaitingRecording) => {
    setBusy(true)
    try {
      // An import that has failed is tried again: the recording itself is still there.
      const importId = await finishOnServer(recording.id, null)
      await takeIntoLesson(desk, recording.id, importId, recording.details)
      done(recording)
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(false)
  }
  const drop = async (recording: WaitingRecording) => {
    try {
      await throwAway(recording.id)
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

/** What this page has sent whole: once is enough, nobody adds to it any more. */
const sent = new Set<string>()

/** What this browser still has is sent to the server first. */
async function findWaiting(lesson: string, savedMedia: () => ReadonlySet<string>): Promise<WaitingRecording[]> {
  const kept = await keptRecordings(lesson).catch(() => [])
  // One that can't be sent now keeps nobody from the others.
  await Promise.allSettled(
    kept.filter(({ id }) => !sent.has(id)).map((one) => sendKept(one).then(() => sent.add(one.id))),
  )
  const waiting = await askWaiting(
    lesson,
    kept.map(({ id }) => id),
  )
  const beingMade = await Promise.all(waiting.map(({ id }) => isBeingMade(id)))
  const own = waiting.filter(
    ({ id, kind, bytes, state }, i) =>
      !isArriving(id) && !beingMade[i] && kind !== 'room' && (bytes > 0 || state === 'finished'),
  )
  // The page may have gone between saving the lesson and saying that this is in it.
  const isIn = await Promise.all(own.map(async (one) => isThere(one, savedMedia)))
  own.forEach(({ id }, i) => isIn[i] && void recordingIsIn(id).catch(console.error))
  return own.filter((_, i) => !isIn[i])
}

async function isThere({ importId }: WaitingRecording, savedMedia: () => ReadonlySet<string>): Promise<boolean> {
  if (!importId) return false
  const [job] = await call<JobStatus<'import'>[]>(`/api/jobs?id=${importId}`).catch(() => [])
  const media = job?.result?.media?.hash
  return media !== undefined && savedMedia().has(media)
}

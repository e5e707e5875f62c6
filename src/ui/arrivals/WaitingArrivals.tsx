'use client'

import { App } from 'antd'
import { useEffect, useState } from 'react'
import { mediaOf } from '@/core/lesson/usedMedia'
import type { WaitingArrival, WaitingFile } from '@/core/messages/arrival'
import { say } from '@/messages/say'
import { useDesk } from '../lesson/context'
import { findWaiting } from './findWaiting'
import { takeFile } from './takeFile'
import { WaitingFileNotice } from './WaitingFileNotice'
import { WaitingRecordingNotice } from './WaitingRecordingNotice'

const LOOK_SOON = 5000 // ms: a recording that breaks off now shows up a few seconds later
const LOOK_SELDOM = 10_000
const NOTHING: ReadonlySet<string> = new Set()

/** What was broken off, by a closed tab or worse, or came in after its page was left: kept, or thrown away. */
export function WaitingArrivals() {
  const desk = useDesk()
  const { message } = App.useApp()
  const [waiting, setWaiting] = useState<WaitingArrival[]>([])
  const [troubles, setTroubles] = useState<ReadonlyMap<string, string>>(new Map())
  useEffect(() => {
    const { id, store, autosave } = desk
    const tried = new Set<string>()
    const take = async ({ id: file, name, importId }: WaitingFile) => {
      tried.add(file)
      try {
        await takeFile(desk, file, importId!)
        void message.info(say('uploads.cameInMeanwhile', { name }), 8)
      } catch (error) {
        setTroubles((all) => new Map(all).set(file, (error as Error).message))
      }
    }
    let stopped = false
    let again: ReturnType<typeof setTimeout>
    const look = async (wait: number) => {
      const savedMedia = () => (autosave.count().areSaved ? mediaOf(store.getState().history.lesson) : NOTHING)
      const found = await findWaiting(id, savedMedia).catch((): WaitingArrival[] => [])
      if (stopped) return
      // What this browser has brought in itself needs no question.
      const taken = found.filter(isOwnWholeFile).filter((one) => !tried.has(one.id))
      for (const file of taken) void take(file)
      setWaiting(found.filter((one) => !taken.includes(one as WaitingFile)))
      again = setTimeout(() => void look(LOOK_SELDOM), wait)
    }
    void look(LOOK_SOON)
    return () => {
      stopped = true
      clearTimeout(again)
    }
  }, [desk, message])
  const done = (arrival: WaitingArrival) => setWaiting((all) => all.filter((one) => one.id !== arrival.id))
  return waiting.map((one) =>
    one.kind === 'file' ? (
      <WaitingFileNotice key={one.id} file={one} trouble={troubles.get(one.id)} onDone={() => done(one)} />
    ) : (
      <WaitingRecordingNotice key={one.id} recording={one} onDone={() => done(one)} />
    ),
  )
}

const isOwnWholeFile = (one: WaitingArrival): one is WaitingFile =>
  one.kind === 'file' && one.isOwn && one.importId !== null

'use client'

import { useEffect, useState } from 'react'
import { call } from '../api'
import { useDesk } from '../lesson/context'
import { asOwner } from '../owner'
import { onDemand } from '../parts/onDemand'
import { KEPT_IN } from './keptIn'

const Recovered = onDemand(() => import('./Recovered').then((part) => part.Recovered))

const LOOK_AGAIN = 30_000 // ms

/** Recordings that are not in the lesson yet are told wherever it is open; what tells of them comes where there may be some. */
export function Waiting() {
  const { id } = useDesk()
  const [mayBe, setMayBe] = useState(false)
  useEffect(() => {
    if (mayBe) return
    const look = () =>
      void mayBeWaiting(id).then(
        (there) => there && setMayBe(true),
        () => {},
      )
    look()
    const again = setInterval(look, LOOK_AGAIN)
    return () => clearInterval(again)
  }, [id, mayBe])
  return mayBe ? <Recovered /> : null
}

/** Whether something was ever recorded in this browser, or waits on the server. */
async function mayBeWaiting(lesson: string): Promise<boolean> {
  const kept = await indexedDB.databases().catch(() => [])
  if (kept.some(({ name }) => name === KEPT_IN)) return true
  return (await call<unknown[]>(`/api/recordings?lesson=${lesson}`, { headers: asOwner() })).length > 0
}

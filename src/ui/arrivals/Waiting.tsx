'use client'

import { useEffect, useState } from 'react'
import { call } from '../api'
import { KEPT_IN } from '../booth/keptIn'
import { useDesk } from '../lesson/context'
import { asOwner } from '../owner'
import { onDemand } from '../parts/onDemand'

const WaitingArrivals = onDemand(() => import('./WaitingArrivals').then((part) => part.WaitingArrivals))

const LOOK_AGAIN = 30_000 // ms

/** What is not in the lesson yet is told wherever it is open; what tells of it comes where there may be some. */
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
  return mayBe ? <WaitingArrivals /> : null
}

/** Whether something was ever recorded in this browser, or waits on the server. */
async function mayBeWaiting(lesson: string): Promise<boolean> {
  const kept = await indexedDB.databases().catch(() => [])
  if (kept.some(({ name }) => name === KEPT_IN)) return true
  return (await call<unknown[]>(`/api/arrivals?lesson=${lesson}`, { headers: asOwner() })).length > 0
}

'use client'

import { Button } from 'antd'
import { CrashNotice } from '../parts/CrashNotice'
import { useDesk } from './context'

/** A view of a lesson broke; the lesson itself is open, and saved as ever. */
export function ViewCrash({ error, onAgain }: { error: Error; onAgain: () => void }) {
  const { store } = useDesk()
  const undoAndTry = () => {
    store.getState().undo()
    onAgain()
  }
  return (
    <CrashNotice
      error={error}
      what="Your lesson is safe: all you did is in it, and goes on being saved. If it happened right after a change, take that back."
      onAgain={onAgain}
    >
      {store.getState().history.past.length > 0 && <Button onClick={undoAndTry}>Undo the last change</Button>}
    </CrashNotice>
  )
}

'use client'

import { Button } from 'antd'
import { say } from '@/messages/say'
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
    <CrashNotice error={error} what={say('lesson.yourLessonIsSafe')} onAgain={onAgain}>
      {store.getState().history.past.length > 0 && (
        <Button onClick={undoAndTry}>{say('lesson.undoTheLastChange')}</Button>
      )}
    </CrashNotice>
  )
}

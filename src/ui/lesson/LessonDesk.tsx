'use client'

import { App } from 'antd'
import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react'
import type { Lesson } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/lesson/media'
import { createPlayer, type Player } from '../player/player'
import { createAutosave } from './autosave'
import { DeskContext } from './context'
import { ConflictNotice } from './ConflictNotice'
import { LessonHeader } from './LessonHeader'
import { createLessonStore } from './lessonStore'
import { useAlignments } from './useAlignments'
import { useCleaning } from './useCleaning'
import { useAnalyses, useMix } from './useMix'
import styles from './desk.module.css'

interface LessonDeskProps {
  id: string
  course: { id: string; title: string }
  lesson: Lesson
  revision: number
  media: MediaInfo[]
  children: ReactNode
}

/** One lesson, open for work: its document, player and saving, around whichever view is shown. */
export function LessonDesk({ id, course, lesson, revision, media, children }: LessonDeskProps) {
  const { message } = App.useApp()
  const [store] = useState(() => createLessonStore(lesson, media, (sentence) => void message.warning(sentence)))
  const player = usePlayer()
  const [autosave] = useState(() => createAutosave(id, store, revision))
  useEffect(() => autosave.start(), [autosave])
  useMix(store, player)
  useAnalyses(store)
  useCleaning(store)
  useAlignments(store)
  const tell = useCallback((sentence: string) => void message.info(sentence, 6), [message])
  const desk = useMemo(
    () => (player ? { id, course, store, player, autosave, tell } : null),
    [id, course, store, player, autosave, tell],
  )
  if (!desk) return null
  return (
    <DeskContext.Provider value={desk}>
      <div className={styles.desk}>
        <LessonHeader />
        <ConflictNotice />
        <main className={styles.view}>{children}</main>
      </div>
    </DeskContext.Provider>
  )
}

/** Made in the browser only, and given up with the page. */
function usePlayer(): Player | null {
  const [player, setPlayer] = useState<Player | null>(null)
  useEffect(() => {
    const made = createPlayer()
    // eslint-disable-next-line react-hooks/set-state-in-effect -- a worker can't be made while the server renders
    setPlayer(made)
    return () => made.close()
  }, [])
  return player
}

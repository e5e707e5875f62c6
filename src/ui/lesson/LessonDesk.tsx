'use client'

import { App } from 'antd'
import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react'
import { say } from '@/messages/say'
import { createPlayer, type Player } from '../player/player'
import { Waiting } from '../arrivals/Waiting'
import { Brand } from '../parts/Brand'
import { DropCurtain } from '../uploads/DropCurtain'
import { createAutosave, type Autosave } from '../saving/autosave'
import { DeskContext } from './context'
import { ConflictNotice } from '../saving/ConflictNotice'
import { Late } from './Late'
import { LessonHeader } from './LessonHeader'
import { createLessonStore } from './lessonStore'
import { openLesson, type OpenedLesson } from '../saving/openLesson'
import { createTyping } from '../saving/typing'
import { useAlignments } from './useAlignments'
import { useCleaning } from './useCleaning'
import { useAnalyses, useMix } from './useMix'
import { useSettling } from './useSettling'
import { useWordFindings } from './useWordFindings'
import styles from './desk.module.css'

/** One lesson, open for work, around whichever view is shown. It is asked for anew by every way that leads here. */
export function LessonDesk({ id, children }: { id: string; children: ReactNode }) {
  const { opened, problem } = useOpened(id)
  if (opened)
    return (
      <OpenDesk key={opened.serial} id={id} opened={opened.lesson}>
        {children}
      </OpenDesk>
    )
  return (
    <main className={styles.opening}>
      <Brand />
      <p role="status">{problem ?? say('lesson.openingTheLesson')}</p>
    </main>
  )
}

const TRY_AGAIN = 2000 // ms

/** What is stored now. A page that the browser had put aside and shows again is out of date, too. */
function useOpened(id: string): { opened: { lesson: OpenedLesson; serial: number } | null; problem: string | null } {
  const [opened, setOpened] = useState<{ lesson: OpenedLesson; serial: number } | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    let gone = false
    let timer: ReturnType<typeof setTimeout> | undefined
    const open = async () => {
      try {
        const lesson = await openLesson(id)
        if (!gone) setOpened((before) => ({ lesson, serial: (before?.serial ?? 0) + 1 }))
      } catch (error) {
        if (gone) return
        setProblem((error as Error).message)
        timer = setTimeout(() => void open(), TRY_AGAIN)
      }
    }
    const onShow = ({ persisted }: PageTransitionEvent) => {
      if (persisted) void open()
    }
    void open()
    window.addEventListener('pageshow', onShow)
    return () => {
      gone = true
      clearTimeout(timer)
      window.removeEventListener('pageshow', onShow)
    }
  }, [id])
  return { opened, problem }
}

/** The lesson's document, player and saving. */
function OpenDesk({ id, opened, children }: { id: string; opened: OpenedLesson; children: ReactNode }) {
  const { message } = App.useApp()
  const { lesson, media, course, saved } = opened
  const [store] = useState(() => createLessonStore(lesson, media, (sentence) => void message.warning(sentence)))
  const player = usePlayer()
  const [typing] = useState(createTyping)
  const [autosave] = useState(() => {
    const onUnited = () => void message.info(say('lesson.whatWasChangedIn'), 6)
    return createAutosave(id, { store, typing, onUnited }, saved)
  })
  useEffect(() => autosave.start(), [autosave])
  useCountedChanges(autosave)
  useMix(store, player)
  useAnalyses(store)
  useCleaning(store)
  useAlignments(store)
  useSettling(store)
  useWordFindings(store, player)
  const tell = useCallback((sentence: string) => void message.info(sentence, 6), [message])
  const desk = useMemo(
    () => (player ? { id, course, store, shown: store, player, autosave, typing, tell } : null),
    [id, course, store, player, autosave, typing, tell],
  )
  if (!desk) return null
  return (
    <DeskContext.Provider value={desk}>
      <div className={styles.desk}>
        <Late>
          <LessonHeader />
        </Late>
        <ConflictNotice />
        <Waiting />
        <main className={styles.view} id="work" tabIndex={-1}>
          {children}
        </main>
      </div>
      <DropCurtain />
    </DeskContext.Provider>
  )
}

/** The page itself tells how often its lesson was changed and whether all of that is saved, at every moment: `Saved` is drawn later. */
function useCountedChanges({ count, subscribe }: Autosave): void {
  useEffect(() => {
    const { dataset } = document.documentElement
    const tell = () => {
      const { changes, areSaved } = count()
      dataset.changes = String(changes)
      dataset.areSaved = areSaved ? 'yes' : 'no'
    }
    tell()
    const unsubscribe = subscribe(tell)
    return () => {
      unsubscribe()
      delete dataset.changes
      delete dataset.areSaved
    }
  }, [count, subscribe])
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

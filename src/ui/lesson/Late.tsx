'use client'

import { useContext, useEffect, useMemo, useState, type ReactNode } from 'react'
import { createStore } from 'zustand'
import { afterPaint } from '../afterPaint'
import { DeskContext } from './context'
import type { LessonState, LessonStore } from './lessonStore'

/**
 * What stands beside the work and may follow it a frame later: settings, names of what was changed. An edit is drawn
 * without waiting for it.
 */
export function Late({ children }: { children: ReactNode }) {
  const desk = useContext(DeskContext)!
  const [late] = useState(() => lateState(desk.store))
  useEffect(() => late.follow(), [late])
  const shown = useMemo(() => ({ ...desk, shown: late.shown }), [desk, late])
  return <DeskContext.Provider value={shown}>{children}</DeskContext.Provider>
}

/** A copy of the state that follows it once the screen shows what has changed. */
function lateState(store: LessonStore) {
  const shown = createStore<LessonState>()(() => store.getState())
  const catchUp = () => shown.setState(store.getState(), true)
  return {
    shown,
    follow() {
      catchUp()
      return store.subscribe(afterPaint(catchUp))
    },
  }
}

'use client'

import { useEffect, useRef, useState } from 'react'
import { useStore } from 'zustand'
import { createArrivals } from './arrivals'
import type { UploadPurpose } from './upload'

/** Files on their way that belong to the component, and how far each has come; what is still sent goes with it. */
export function useArrivals(purpose: UploadPurpose = 'media', course: string | null = null) {
  const [own] = useState(() => createArrivals({ purpose, course, lesson: null }))
  const closing = useRef<ReturnType<typeof setTimeout>>(undefined)
  useEffect(() => {
    // One that is put up again at once, as while it is worked on, has not gone.
    clearTimeout(closing.current)
    return () => {
      closing.current = setTimeout(own.close)
    }
  }, [own])
  return { arrivals: useStore(own), add: own.add, drop: own.drop }
}

'use client'

import { useCallback } from 'react'
import { byName } from '@/core/lesson/fromFile'
import { useDesk } from '../lesson/context'
import { arrivalsOfLesson } from './arrivals'
import { expectInOrder } from './placeInOrder'

/** Brings files into the open lesson, by whatever way they came; pictures stand in it in the order of their names. */
export function useBringIn(): (files: File[]) => void {
  const { id, store } = useDesk()
  return useCallback(
    (files: File[]) => {
      const arrivals = arrivalsOfLesson(id)
      const before = arrivals.getState().length
      arrivals.add([...files].sort(byName))
      const keys = arrivals
        .getState()
        .slice(before)
        .map(({ key }) => key)
      expectInOrder(keys, store.getState().selected)
    },
    [id, store],
  )
}

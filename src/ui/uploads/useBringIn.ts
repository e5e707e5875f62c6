'use client'

import { App } from 'antd'
import { useCallback } from 'react'
import { byName } from '@/core/lesson/fromFile'
import { say } from '@/messages/say'
import { useDesk } from '../lesson/context'
import { arrivalsOfLesson } from './arrivals'
import { isCaptionFile } from './captionFile'
import { expectInOrder } from './placeInOrder'

/**
 * Brings files into the open lesson, by whatever way they came; pictures stand in it in the order of their names, and captions
 * are what its steps say.
 */
export function useBringIn(): (files: File[]) => void {
  const { id, store } = useDesk()
  const { message } = App.useApp()
  const readIn = useCallback(
    async (file: File) => {
      try {
        const { takeCaptions } = await import('./takeCaptions')
        const steps = takeCaptions(store, await file.text())
        void message.success(
          say(steps === 0 ? 'uploads.saidAlready' : 'uploads.nowTheScript', { name: file.name, count: steps }),
        )
      } catch (error) {
        void message.error(`${file.name}: ${(error as Error).message}`, 8)
      }
    },
    [store, message],
  )
  return useCallback(
    (files: File[]) => {
      for (const file of files.filter(isCaptionFile)) void readIn(file)
      const arrivals = arrivalsOfLesson(id)
      const before = arrivals.getState().length
      arrivals.add(files.filter((file) => !isCaptionFile(file)).sort(byName))
      const keys = arrivals
        .getState()
        .slice(before)
        .map(({ key }) => key)
      expectInOrder(keys, store.getState().selected)
    },
    [id, store, readIn],
  )
}

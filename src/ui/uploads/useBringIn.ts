'use client'

import { App } from 'antd'
import { useCallback } from 'react'
import { useDesk } from '../lesson/context'
import { filesExpected } from './expected'

/** Brings files into the open lesson, by whatever way they came. */
export function useBringIn(): (files: File[]) => void {
  const desk = useDesk()
  const app = App.useApp()
  return useCallback(
    (files: File[]) => {
      filesExpected.setState(true, true)
      void import('./bringIntoLesson').then(
        ({ bringIntoLesson }) => bringIntoLesson(files, desk, app),
        (error: Error) => void app.message.error(error.message),
      )
    },
    [desk, app],
  )
}

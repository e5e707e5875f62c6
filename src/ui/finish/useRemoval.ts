'use client'

import { App, Button } from 'antd'
import { createElement, useEffect, useRef, useState } from 'react'
import { say } from '@/messages/say'

const TIME_TO_UNDO = 10_000 // ms

/** Takes things out of a list at once, and really removes them after a while or with the page: until then it can be undone. */
export function useRemoval(remove: (id: string) => Promise<unknown>): {
  removed: ReadonlySet<string>
  take(id: string, title: string): void
} {
  const { message } = App.useApp()
  const [removed, setRemoved] = useState<ReadonlySet<string>>(new Set())
  const waiting = useRef(new Map<string, ReturnType<typeof setTimeout>>())
  const latest = useRef(remove)
  useEffect(() => {
    latest.current = remove
  })
  useEffect(() => {
    const left = waiting.current
    return () => {
      for (const [id, timer] of left) {
        clearTimeout(timer)
        void latest.current(id)
      }
      left.clear()
    }
  }, [])
  const bringBack = (id: string) => {
    clearTimeout(waiting.current.get(id))
    waiting.current.delete(id)
    setRemoved((all) => new Set([...all].filter((one) => one !== id)))
    message.destroy(id)
  }
  const take = (id: string, title: string) => {
    setRemoved((all) => new Set([...all, id]))
    const done = () => {
      waiting.current.delete(id)
      void latest.current(id)
    }
    waiting.current.set(id, setTimeout(done, TIME_TO_UNDO))
    const undo = createElement(
      Button,
      { size: 'small', type: 'link', onClick: () => bringBack(id) },
      say('finish.bringItBack'),
    )
    void message.info({
      key: id,
      content: [say('finish.isRemoved', { title }), ' ', undo],
      duration: TIME_TO_UNDO / 1000,
    })
  }
  return { removed, take }
}

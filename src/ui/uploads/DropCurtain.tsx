'use client'

import { CloseOutlined } from '@/ui/parts/icons'
import { App, Button } from 'antd'
import { useEffect } from 'react'
import { useStore } from 'zustand'
import type { Edit } from '@/core/lesson/edits'
import { shelfItem } from '@/core/lesson/fromFile'
import { say } from '@/messages/say'
import { useDesk } from '../lesson/context'
import { arrivalsOfLesson, isDone, sayState, shareOf } from './arrivals'
import { placeInOrder } from './placeInOrder'
import { useBringIn } from './useBringIn'
import { useFileDrop } from './useFileDrop'
import styles from './curtain.module.css'

/** Takes files dropped anywhere in a lesson, shows how far they are, and puts them where they belong. */
export function DropCurtain() {
  const { id, store } = useDesk()
  const app = App.useApp()
  const own = arrivalsOfLesson(id)
  const arrivals = useStore(own)

  useEffect(() => {
    for (const arrival of arrivals.filter(isDone)) {
      const media = arrival.status?.result?.media
      own.drop(arrival.key)
      if (!media) continue
      const state = store.getState()
      state.addMedia([media])
      const putOnShelf: Edit = { name: 'putOnShelf', items: [shelfItem(media)] }
      if (media.note) void app.message.warning(`${media.name}: ${media.note}`, 8)
      if (media.kind === 'sound') {
        state.edit(putOnShelf)
        void import('./askWhatItIs').then(({ askWhatItIs }) => askWhatItIs(media, store, app))
      } else state.edit(putOnShelf, ...placeInOrder(state, arrival.key, media))
    }
  }, [arrivals, own, store, app])

  const over = useFileDrop(useBringIn())
  const shown = arrivals.filter((arrival) => !isDone(arrival))
  return (
    <>
      {over && <div className={styles.curtain}>{say('uploads.letGoToBring')}</div>}
      {shown.length > 0 && (
        <ul className={styles.list} aria-label={say('uploads.filesOnTheirWay')}>
          {shown.map((arrival) => (
            <li key={arrival.key} data-failed={arrival.error ? 'yes' : undefined}>
              <b>{arrival.name}</b>
              <Button
                size="small"
                type="text"
                icon={<CloseOutlined />}
                aria-label={
                  arrival.error ? say('uploads.putThisNoticeAway') : say('uploads.cancel', { name: arrival.name })
                }
                onClick={() => own.drop(arrival.key)}
              />
              <span role={arrival.error ? 'alert' : undefined}>{sayState(arrival)}</span>
              {!arrival.error && (
                <progress
                  max={1}
                  value={shareOf(arrival)}
                  aria-label={say('uploads.howFarIs', { name: arrival.name })}
                />
              )}
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

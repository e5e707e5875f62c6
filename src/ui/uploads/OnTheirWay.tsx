'use client'

import { CloseOutlined } from '@/ui/parts/icons'
import { App, Button } from 'antd'
import { useEffect } from 'react'
import { useStore } from 'zustand'
import type { Edit } from '@/core/lesson/edits'
import { shelfItem } from '@/core/lesson/fromFile'
import type { MediaInfo } from '@/core/messages/media'
import { say } from '@/messages/say'
import { arrive } from '../arrivals/arrive'
import { tellTaken } from '../arrivals/ownArrivals'
import { useDesk } from '../lesson/context'
import { arrivalsOfLesson, isDone, sayState, shareOf } from './arrivals'
import { placeInOrder } from './placeInOrder'
import type { Arrival } from './upload'
import styles from './curtain.module.css'

/** Shows files on their way into the lesson, how far they are, and puts them where they belong. */
export function OnTheirWay() {
  const { id, store, autosave } = useDesk()
  const app = App.useApp()
  const own = arrivalsOfLesson(id)
  const arrivals = useStore(own)

  useEffect(() => {
    function place({ key }: Arrival, media: MediaInfo): boolean {
      const state = store.getState()
      state.addMedia([media])
      const putOnShelf: Edit = { name: 'putOnShelf', items: [shelfItem(media)] }
      if (media.note) void app.message.warning(`${media.name}: ${media.note}`, 8)
      if (media.kind !== 'sound') return state.edit(putOnShelf, ...placeInOrder(state, key, media))
      const isDone = state.edit(putOnShelf)
      void import('./askWhatItIs').then(({ askWhatItIs }) => askWhatItIs(media, store, app))
      return isDone
    }
    for (const arrival of arrivals.filter(isDone)) {
      own.take(arrival.key)
      const media = arrival.status?.result?.media
      if (media) void arrive(arrival.id!, autosave, () => place(arrival, media), tellTaken).catch(console.error)
    }
  }, [arrivals, own, store, autosave, app])

  const shown = arrivals.filter((arrival) => !isDone(arrival))
  if (shown.length === 0) return null
  return (
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
            <progress max={1} value={shareOf(arrival)} aria-label={say('uploads.howFarIs', { name: arrival.name })} />
          )}
        </li>
      ))}
    </ul>
  )
}

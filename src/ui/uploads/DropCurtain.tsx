'use client'

import { CloseOutlined } from '@ant-design/icons'
import { App, Button } from 'antd'
import { useCallback, useEffect } from 'react'
import { useStore } from 'zustand'
import type { Edit } from '@/core/lesson/edits'
import { shelfItem } from '@/core/lesson/fromFile'
import type { MediaInfo } from '@/core/messages/media'
import { runJob } from '../jobs'
import { useDesk } from '../lesson/context'
import { asMusic, asNarration } from '../lesson/useShelfActions'
import { arrivalsOfLesson, isDone, sayState, shareOf } from './arrivals'
import { placeInOrder } from './placeInOrder'
import { useBringIn } from './useBringIn'
import { useFileDrop } from './useFileDrop'
import styles from './curtain.module.css'

const SOUNDS_LIKE = {
  voice: 'It sounds like somebody speaking.',
  music: 'It sounds like music.',
  unsure: 'It may be somebody speaking or music.',
}

/** Takes files dropped anywhere in a lesson, shows how far they are, and puts them where they belong. */
export function DropCurtain() {
  const { id, store } = useDesk()
  const { message, modal } = App.useApp()
  const own = arrivalsOfLesson(id)
  const arrivals = useStore(own)

  /** What a sound is for can be measured, but not known: the guess comes first, the author decides. */
  const ask = useCallback(
    async (media: MediaInfo) => {
      const state = store.getState()
      if (state.selected.length === 0) return void message.success(`${media.name} is on the shelf.`)
      const guess = await runJob<'roles'>({ kind: 'roles', sounds: [media.hash] }).then(
        ({ voice, music }) => (voice.length > 0 ? 'voice' : music.length > 0 ? 'music' : null),
        () => null,
      )
      const number = state.history.lesson.steps.findIndex(({ id }) => id === state.selected[0]) + 1
      const place = (edits: ReturnType<typeof asMusic>) => void store.getState().edit(...edits)
      const dialog = modal.confirm({
        title: `What is ${media.name}?`,
        content: SOUNDS_LIKE[guess ?? 'unsure'],
        footer: (
          <div className={styles.choices}>
            <Button
              type={guess === 'voice' ? 'primary' : 'default'}
              onClick={() => (place(asNarration(store.getState(), media)), dialog.destroy())}
            >
              Narration of step {number}
            </Button>
            <Button
              type={guess === 'music' ? 'primary' : 'default'}
              onClick={() => (place(asMusic(store.getState(), media)), dialog.destroy())}
            >
              Music from step {number} on
            </Button>
            <Button onClick={() => dialog.destroy()}>Only keep it on the shelf</Button>
          </div>
        ),
      })
    },
    [store, message, modal],
  )

  useEffect(() => {
    for (const arrival of arrivals.filter(isDone)) {
      const media = arrival.status?.result?.media
      own.drop(arrival.key)
      if (!media) continue
      const state = store.getState()
      state.addMedia([media])
      const putOnShelf: Edit = { name: 'putOnShelf', items: [shelfItem(media)] }
      if (media.note) void message.warning(`${media.name}: ${media.note}`, 8)
      if (media.kind === 'sound') {
        state.edit(putOnShelf)
        void ask(media)
      } else state.edit(putOnShelf, ...placeInOrder(state, arrival.key, media))
    }
  }, [arrivals, own, store, message, ask])

  const over = useFileDrop(useBringIn())
  const shown = arrivals.filter((arrival) => !isDone(arrival))
  return (
    <>
      {over && <div className={styles.curtain}>Let go to bring these files into the lesson</div>}
      {shown.length > 0 && (
        <ul className={styles.list} aria-label="Files on their way">
          {shown.map((arrival) => (
            <li key={arrival.key} data-failed={arrival.error ? 'yes' : undefined}>
              <b>{arrival.name}</b>
              <Button
                size="small"
                type="text"
                icon={<CloseOutlined />}
                aria-label={arrival.error ? 'Put this notice away' : `Cancel ${arrival.name}`}
                onClick={() => own.drop(arrival.key)}
              />
              <span role={arrival.error ? 'alert' : undefined}>{sayState(arrival)}</span>
              {!arrival.error && (
                <progress max={1} value={shareOf(arrival)} aria-label={`How far ${arrival.name} is`} />
              )}
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

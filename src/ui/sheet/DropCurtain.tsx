'use client'

import { CloseOutlined } from '@ant-design/icons'
import { App, Button, Progress } from 'antd'
import { useCallback, useEffect } from 'react'
import type { Edit } from '@/core/lesson/edits'
import { shelfItem } from '@/core/lesson/firstLesson'
import type { MediaInfo } from '@/core/lesson/media'
import { call } from '../api'
import { useDesk } from '../lesson/context'
import type { Arrival } from '../uploads/upload'
import { isDone, sayState, shareOf, useArrivals } from '../uploads/useArrivals'
import { useFileDrop } from '../uploads/useFileDrop'
import { useSheetArrivals } from './sheetArrivals'
import { asMusic, asNarration, asSteps } from './useShelfActions'
import styles from './curtain.module.css'

/** Takes files dropped anywhere on the sheet, shows how far they are, and puts them where they belong. */
export function DropCurtain() {
  const { store } = useDesk()
  const { message, modal } = App.useApp()
  const waiting = useSheetArrivals((state) => state.files)
  const { bringIn, take } = useSheetArrivals.getState()

  /** What a sound is for can be measured, but not known: the guess comes first, the author decides. */
  const ask = useCallback(
    async (media: MediaInfo) => {
      const state = store.getState()
      if (state.selected.length === 0) return void message.success(`${media.name} is on the shelf.`)
      const { voice } = await call<{ voice: string[] }>('/api/roles', { body: { sounds: [media.hash] } }).catch(() => ({
        voice: [],
      }))
      const isVoice = voice.length > 0
      const number = state.history.lesson.steps.findIndex(({ id }) => id === state.selected[0]) + 1
      const place = (edits: ReturnType<typeof asMusic>) => void store.getState().edit(...edits)
      const dialog = modal.confirm({
        title: `What is ${media.name}?`,
        content: isVoice ? 'It sounds like somebody speaking.' : 'It sounds like music.',
        footer: (
          <div className={styles.choices}>
            <Button
              type={isVoice ? 'primary' : 'default'}
              onClick={() => (place(asNarration(store.getState(), media)), dialog.destroy())}
            >
              Narration of step {number}
            </Button>
            <Button
              type={isVoice ? 'default' : 'primary'}
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

  const onDone = useCallback(
    ({ status }: Arrival) => {
      const media = status?.media
      if (!media) return
      const state = store.getState()
      state.addMedia([media])
      const putOnShelf: Edit = { name: 'putOnShelf', items: [shelfItem(media)] }
      if (media.note) void message.warning(`${media.name}: ${media.note}`, 8)
      if (media.kind !== 'sound') {
        state.edit(putOnShelf, ...asSteps(state, [media]))
        return
      }
      state.edit(putOnShelf)
      void ask(media)
    },
    [store, message, ask],
  )
  const { arrivals, add, drop } = useArrivals(onDone)

  useEffect(() => {
    const files = waiting.length > 0 ? take() : []
    if (files.length > 0) add(files)
  }, [waiting, take, add])

  const over = useFileDrop(bringIn)
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
                onClick={() => drop(arrival.key)}
              />
              <span role={arrival.error ? 'alert' : undefined}>{sayState(arrival)}</span>
              {!arrival.error && (
                <Progress percent={Math.round(shareOf(arrival) * 100)} showInfo={false} size="small" />
              )}
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

'use client'

import { DeleteOutlined } from '@ant-design/icons'
import { App, Button, Select } from 'antd'
import { nanoid } from 'nanoid'
import { useMemo } from 'react'
import type { Picture, Step } from '@/core/lesson/document'
import { picturesOf } from '@/core/lesson/firstLesson'
import { useDesk, useLesson, useLessonState } from '../lesson/context'
import { PictureThumb } from '../parts/PictureThumb'
import { saidAtCaret, sayPlace } from './anchors'
import styles from './panel.module.css'

/** Several pictures in one step: each further one is seen from a word on. */
export function FurtherPictures({ step }: { step: Step }) {
  const { store } = useDesk()
  const { message } = App.useApp()
  const state = useLessonState((all) => all)
  const choices = usePictureChoices()
  const { edit } = store.getState()
  const add = (key: string) => {
    const said = saidAtCaret(state)
    const choice = choices.find((one) => one.key === key)
    if (!said || state.caret?.step !== step.id || state.caret.word === 0)
      return void message.info('Put the caret before the word at which the picture is to change.')
    if (choice) edit({ name: 'addPicture', step: step.id, id: nanoid(10), picture: choice.picture, said })
  }
  return (
    <>
      <span>Then</span>
      <span>
        {step.more.map(({ id, picture, said }) => (
          <span key={id} className={styles.pin}>
            <PictureThumb picture={picture} className={styles.smallThumb} />
            at {sayPlace(state, said) ?? 'words that are gone: not seen'}
            <Button
              size="small"
              type="text"
              icon={<DeleteOutlined />}
              aria-label="Take this picture out"
              onClick={() => edit({ name: 'removePicture', step: step.id, id })}
            />
          </span>
        ))}
        <Select
          size="small"
          style={{ width: '100%' }}
          aria-label="Another picture at the caret"
          placeholder="another picture from the caret’s word on"
          value={null}
          showSearch={{ optionFilterProp: 'label' }}
          options={choices.map(({ key, label }) => ({ value: key, label }))}
          onChange={(key: string | null) => key && add(key)}
        />
      </span>
    </>
  )
}

/** Every picture of the shelf. */
function usePictureChoices(): { key: string; label: string; picture: Picture }[] {
  const { shelf } = useLesson()
  const media = useLessonState((state) => state.media)
  return useMemo(
    () =>
      shelf.flatMap((item) => {
        const info = media.get(item.media)
        return info
          ? picturesOf(info).map(({ title, picture }, i) => ({ key: `${item.media} ${i}`, label: title, picture }))
          : []
      }),
    [shelf, media],
  )
}

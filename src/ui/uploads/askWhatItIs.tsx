'use client'

import { Button } from 'antd'
import type { useAppProps } from 'antd/es/app/context'
import type { Edit } from '@/core/lesson/edits'
import type { MediaInfo } from '@/core/messages/media'
import { runJob } from '../jobs'
import type { LessonState, LessonStore } from '../lesson/lessonStore'
import { asMusic, asNarration } from '../lesson/useShelfActions'
import styles from './curtain.module.css'

const SOUNDS_LIKE = {
  voice: 'It sounds like somebody speaking.',
  music: 'It sounds like music.',
  unsure: 'It may be somebody speaking or music.',
}

/** What a sound is for can be measured, but not known: the guess comes first, the author decides. */
export async function askWhatItIs(media: MediaInfo, store: LessonStore, { message, modal }: useAppProps) {
  const { selected, history } = store.getState()
  if (selected.length === 0) return void message.success(`${media.name} is on the shelf.`)
  const guess = await guessOf(media)
  const number = history.lesson.steps.findIndex(({ id }) => id === selected[0]) + 1
  const placed = (edits: (state: LessonState, info: MediaInfo) => Edit[]) => () => {
    store.getState().edit(...edits(store.getState(), media))
    dialog.destroy()
  }
  const dialog = modal.confirm({
    title: `What is ${media.name}?`,
    content: SOUNDS_LIKE[guess],
    footer: (
      <div className={styles.choices}>
        <Button type={guess === 'voice' ? 'primary' : 'default'} onClick={placed(asNarration)}>
          Narration of step {number}
        </Button>
        <Button type={guess === 'music' ? 'primary' : 'default'} onClick={placed(asMusic)}>
          Music from step {number} on
        </Button>
        <Button onClick={() => dialog.destroy()}>Only keep it on the shelf</Button>
      </div>
    ),
  })
}

const guessOf = (media: MediaInfo): Promise<keyof typeof SOUNDS_LIKE> =>
  runJob<'roles'>({ kind: 'roles', sounds: [media.hash] }).then(
    ({ voice, music }) => (voice.length > 0 ? 'voice' : music.length > 0 ? 'music' : 'unsure'),
    () => 'unsure' as const,
  )

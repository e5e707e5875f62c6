'use client'

import { Button } from 'antd'
import type { useAppProps } from 'antd/es/app/context'
import type { Edit } from '@/core/lesson/edits'
import type { MediaInfo } from '@/core/messages/media'
import { say } from '@/messages/say'
import { runJob } from '../jobs'
import type { LessonState, LessonStore } from '../lesson/lessonStore'
import { asMusic, asNarration } from '../lesson/useShelfActions'
import styles from './curtain.module.css'

const soundsLike = (): Record<Guess, string> => ({
  voice: say('uploads.itSoundsLikeSomebody'),
  music: say('uploads.itSoundsLikeMusic'),
  unsure: say('uploads.itMayBeSomebody'),
})

type Guess = 'voice' | 'music' | 'unsure'

/** What a sound is for can be measured, but not known: the guess comes first, the author decides. */
export async function askWhatItIs(media: MediaInfo, store: LessonStore, { message, modal }: useAppProps) {
  const { selected, history } = store.getState()
  if (selected.length === 0) return void message.success(say('uploads.isOnTheShelf', { name: media.name }))
  const guess = await guessOf(media)
  const number = history.lesson.steps.findIndex(({ id }) => id === selected[0]) + 1
  const placed = (edits: (state: LessonState, info: MediaInfo) => Edit[]) => () => {
    store.getState().edit(...edits(store.getState(), media))
    dialog.destroy()
  }
  const dialog = modal.confirm({
    title: say('uploads.whatIs', { name: media.name }),
    icon: null,
    content: soundsLike()[guess],
    footer: (
      <div className={styles.choices}>
        <Button type={guess === 'voice' ? 'primary' : 'default'} onClick={placed(asNarration)}>
          {say('uploads.narrationOfStep', { number })}
        </Button>
        <Button type={guess === 'music' ? 'primary' : 'default'} onClick={placed(asMusic)}>
          {say('uploads.musicFromStepOn', { number })}
        </Button>
        <Button onClick={() => dialog.destroy()}>{say('uploads.onlyKeepItOn')}</Button>
      </div>
    ),
  })
}

const guessOf = (media: MediaInfo): Promise<Guess> =>
  runJob<'roles'>({ kind: 'roles', sounds: [media.hash] }).then(
    ({ voice, music }) => (voice.length > 0 ? 'voice' : music.length > 0 ? 'music' : 'unsure'),
    () => 'unsure' as const,
  )

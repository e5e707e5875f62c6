'use client'

import { App, Select } from 'antd'
import { useState } from 'react'
import type { RecordingPicture, Step } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../../lesson/context'
import { runJob } from '../../jobs'

/** Which of its sound tracks a recording is heard by, where it has several. */
export function SoundTrackChoice({ step, picture }: { step: Step; picture: RecordingPicture }) {
  const { store } = useDesk()
  const { message } = App.useApp()
  const info = useLessonState(({ media }) => media.get(picture.media))
  const [busy, setBusy] = useState(false)
  if (!info || info.soundTracks.length < 2) return null
  const choose = async (track: number) => {
    setBusy(true)
    try {
      const { info: other } = await runJob<'soundTrack'>({ kind: 'soundTrack', media: info.hash, track })
      const { addMedia, edit, history } = store.getState()
      const item = history.lesson.shelf.find(({ media }) => media === info.hash)
      addMedia([other])
      edit(...(item ? [{ name: 'putOnShelf' as const, items: [{ ...item, media: other.hash }] }] : []), {
        name: 'setPicture',
        step: step.id,
        picture: { ...picture, media: other.hash },
      })
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(false)
  }
  return (
    <>
      <span>{say('step.track')}</span>
      <Select
        size="small"
        aria-label={say('step.whichSoundTrackIs')}
        loading={busy}
        disabled={busy}
        value={info.soundTrack}
        options={info.soundTracks.map((name, track) => ({ value: track, label: name }))}
        onChange={(track) => void choose(track)}
      />
    </>
  )
}

'use client'

import { DeleteOutlined } from '@/ui/parts/icons'
import { App, Button, Checkbox, Select } from 'antd'
import { useState } from 'react'
import { nanoid } from 'nanoid'
import { newSound } from '@/core/lesson/newParts'
import type { SoundCue } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { clock } from '../../format'
import { useDesk, useLesson, useLessonState, useTimeline } from '../../lesson/context'
import { NumberField } from '../../parts/NumberField'
import { anchorAtCaret, sayPlace, titleOf } from '../../words/anchors'
import { soundsClip, writeClipboard } from '../../words/clipboard'
import { hangAnew } from '../../words/hang'
import { LooseThings } from '../LooseThings'
import { SoundLibrary } from './SoundLibrary'
import { SoundSettings } from './SoundSettings'
import styles from '../panel.module.css'

/** Effects and second voices: what hangs where, and what has come loose. */
export function SoundsPanel() {
  const { store, player } = useDesk()
  const lesson = useLesson()
  const timeline = useTimeline()
  const state = useLessonState((all) => all)
  const [open, setOpen] = useState<string | null>(null)
  const [chosen, setChosen] = useState<readonly string[]>([])
  const { edit } = store.getState()
  return (
    <>
      <LooseThings which={({ kind }) => kind === 'sound'} />
      <ul className={styles.list}>
        {timeline.sounds.map(({ cue, start }) => (
          <li key={cue.id} className={styles.sound}>
            <Checkbox
              aria-label={say('sounds.choose', { title: titleOf(lesson, cue.media) })}
              checked={chosen.includes(cue.id)}
              onChange={({ target }) =>
                setChosen(target.checked ? [...chosen, cue.id] : chosen.filter((id) => id !== cue.id))
              }
            />
            <button
              className={styles.plain}
              aria-expanded={open === cue.id}
              onClick={() => {
                setOpen(open === cue.id ? null : cue.id)
                player.seek(Math.max(0, start - 1))
              }}
            >
              {titleOf(lesson, cue.media)}
              <small>
                {say(cue.track === 'voice' ? 'sounds.secondVoice' : 'sounds.soundAt', {
                  time: clock(start),
                  place: sayPlace(state, cue),
                })}
              </small>
            </button>
            <Button
              size="small"
              type="text"
              icon={<DeleteOutlined />}
              aria-label={say('sounds.takeOut', { title: titleOf(lesson, cue.media) })}
              onClick={() => edit({ name: 'removeSounds', sounds: [cue.id] })}
            />
            {open === cue.id && (
              <>
                <SoundSettings cue={cue} />
                <HangOnCaret cue={cue} />
              </>
            )}
          </li>
        ))}
      </ul>
      <Several cues={lesson.sounds.filter(({ id }) => chosen.includes(id))} onDone={() => setChosen([])} />
      <AddSound />
      <SoundLibrary />
    </>
  )
}

function HangOnCaret({ cue }: { cue: SoundCue }) {
  const { store } = useDesk()
  const edits = hangAnew(
    useLessonState((all) => all),
    { kind: 'sound', id: cue.id, cue },
  )
  return (
    <Button size="small" disabled={!edits} onClick={() => edits && store.getState().edit(...edits)}>
      {say('sounds.hangItOnThe')}
    </Button>
  )
}

/** What can be done to several sounds at once. */
function Several({ cues, onDone }: { cues: readonly SoundCue[]; onDone: () => void }) {
  const { store } = useDesk()
  const { message } = App.useApp()
  const [by, setBy] = useState(0.5)
  if (cues.length === 0) return null
  const { edit } = store.getState()
  const shift = () =>
    edit(
      ...cues.map((cue) => ({
        name: 'setSound' as const,
        sound: { ...cue, anchor: { ...cue.anchor, offset: cue.anchor.offset + by } },
      })),
    )
  const copy = () => {
    const ids = cues.map(({ id }) => id)
    writeClipboard(soundsClip(store.getState(), ids)!)
    void message.info(say('sounds.copiedPutTheCaret'))
  }
  return (
    <div className={styles.actions}>
      <Button size="small" onClick={copy}>
        {say('sounds.copy', { count: cues.length })}
      </Button>
      <Button
        size="small"
        onClick={() => {
          if (edit({ name: 'removeSounds', sounds: cues.map(({ id }) => id) })) onDone()
        }}
      >
        {say('sounds.takeOutSeveral', { count: cues.length })}
      </Button>
      <Button size="small" onClick={shift}>
        {say('sounds.moveThemBy')}
      </Button>
      <NumberField
        size="small"
        aria-label={say('sounds.secondsToMoveBy')}
        min={-3600}
        max={3600}
        step={0.1}
        value={by}
        suffix="s"
        style={{ width: 90 }}
        onChange={(value) => value !== null && setBy(value)}
      />
    </div>
  )
}

/** A sound of the shelf, hung on the word or step at the caret. */
function AddSound() {
  const { store } = useDesk()
  const lesson = useLesson()
  const state = useLessonState((all) => all)
  const [media, setMedia] = useState<string | null>(null)
  const [track, setTrack] = useState<SoundCue['track']>('effect')
  const here = anchorAtCaret(state)
  const sounds = lesson.shelf.filter(({ kind }) => kind === 'sound')
  const add = () => {
    const length = media && state.media.get(media)?.length
    if (media && length && here)
      store
        .getState()
        .edit(
          { name: 'placeMarks', marks: here.marks },
          { name: 'addSounds', sounds: [newSound(nanoid(10), media, length, here.anchor, track)] },
        )
  }
  return (
    <div className={styles.actions}>
      <Select
        size="small"
        style={{ flex: 1, minWidth: 120 }}
        placeholder={say('sounds.aSoundFromThe')}
        aria-label={say('sounds.soundToAdd')}
        value={media}
        options={sounds.map((item) => ({ value: item.media, label: item.title }))}
        onChange={setMedia}
      />
      <Select
        size="small"
        aria-label={say('sounds.asWhat')}
        value={track}
        options={[
          { value: 'effect', label: say('sounds.effect') },
          { value: 'voice', label: say('sounds.secondVoiceTrack') },
        ]}
        onChange={setTrack}
      />
      <Button size="small" disabled={!media || !here} onClick={add}>
        {say('sounds.hangOnTheCaret')}
      </Button>
    </div>
  )
}

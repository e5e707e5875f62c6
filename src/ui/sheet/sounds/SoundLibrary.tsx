'use client'

import { CaretRightFilled } from '@/ui/parts/icons'
import { App, Button, Input } from 'antd'
import { useRef, useState } from 'react'
import { nanoid } from 'nanoid'
import { newSound } from '@/core/lesson/newParts'
import { EFFECTS_LICENCE, findEffects, type Effect } from '@/core/sounds/effects'
import { HOUSE_RATE } from '@/core/units'
import { decimal } from '@/ui/format'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../../lesson/context'
import { runJob } from '../../jobs'
import { anchorAtCaret } from '../../words/anchors'
import styles from '../panel.module.css'

/** Effects and stingers that come with the application: listened to here, hung on the caret. */
export function SoundLibrary() {
  const { store } = useDesk()
  const { message } = App.useApp()
  const state = useLessonState((all) => all)
  const [phrase, setPhrase] = useState('')
  const [busy, setBusy] = useState<string | null>(null)
  const listen = useListening()
  const here = anchorAtCaret(state)
  const hang = async ({ id, length }: Effect) => {
    if (!here) return
    setBusy(id)
    try {
      const { info } = await runJob<'effect'>({ kind: 'effect', effect: id })
      store.getState().addMedia([info])
      store.getState().edit(
        { name: 'placeMarks', marks: here.marks },
        { name: 'addSounds', sounds: [newSound(nanoid(10), info.hash, length, here.anchor, 'effect')] },
        {
          name: 'putOnShelf',
          items: [{ media: info.hash, kind: 'sound', title: say(`effects.${id}`), ...EFFECTS_LICENCE }],
        },
      )
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(null)
  }
  const found = findEffects(phrase)
  return (
    <>
      <h2 className={styles.heading} style={{ marginTop: 14 }}>
        {say('sounds.library')}
      </h2>
      <Input
        size="small"
        aria-label={say('sounds.lookForASound')}
        placeholder={say('sounds.bellClickWave')}
        value={phrase}
        onChange={(event) => setPhrase(event.target.value)}
      />
      <ul className={styles.list} aria-label={say('sounds.libraryOfSounds')}>
        {found.map((one) => (
          <li key={one.id}>
            <Button
              size="small"
              type="text"
              icon={<CaretRightFilled />}
              aria-label={say('sounds.listenTo', { name: say(`effects.${one.id}`) })}
              onClick={() => listen(one)}
            />
            <span>
              {say(`effects.${one.id}`)}
              <small>{say('sounds.s', { seconds: decimal(one.length, 1) })}</small>
            </span>
            <Button
              size="small"
              aria-label={say('sounds.hangNamed', { name: say(`effects.${one.id}`) })}
              loading={busy === one.id}
              disabled={!here}
              onClick={() => void hang(one)}
            >
              {say('sounds.hangOnTheCaret')}
            </Button>
          </li>
        ))}
      </ul>
      {found.length === 0 && <p className={styles.note}>{say('sounds.noSoundIsCalled')}</p>}
      <p className={styles.note}>{say('sounds.allOfTheseAre')}</p>
    </>
  )
}

/** Plays an effect at once: it is made in the page. */
function useListening(): (effect: Effect) => void {
  const context = useRef<AudioContext | null>(null)
  return (effect) => {
    context.current ??= new AudioContext({ sampleRate: HOUSE_RATE })
    const samples = effect.make()
    const buffer = context.current.createBuffer(1, samples.length, HOUSE_RATE)
    buffer.copyToChannel(Float32Array.from(samples), 0)
    const source = new AudioBufferSourceNode(context.current, { buffer })
    source.connect(context.current.destination)
    source.start()
  }
}

'use client'

import { Checkbox, Input } from 'antd'
import type { SoundCue } from '@/core/lesson/document'
import { LIMITS } from '@/core/lesson/limits'
import { say } from '@/messages/say'
import { useDesk } from '../../lesson/context'
import { useTyped } from '../../saving/useTyped'
import { NumberField } from '../../parts/NumberField'
import { SecondsField } from '../../parts/SecondsField'
import styles from '../panel.module.css'

/** Level, place and fades of a sound. */
export function SoundSettings({ cue }: { cue: SoundCue }) {
  const { store } = useDesk()
  const set = (part: Partial<SoundCue>) => store.getState().edit({ name: 'setSound', sound: { ...cue, ...part } })
  const caption = useTyped(cue.caption, (text, isFirst) =>
    store.getState().continueEdit({ name: 'setSound', sound: { ...cue, caption: text } }, isFirst),
  )
  return (
    <div className={styles.soundSettings}>
      <span>{say('sounds.level')}</span>
      <NumberField
        aria-label={say('sounds.level')}
        min={-60}
        max={24}
        value={cue.gain}
        suffix="dB"
        onChange={(gain) => gain !== null && set({ gain })}
      />
      <SecondsField
        label={say('sounds.afterItsPlace')}
        value={cue.anchor.offset}
        least={-3600}
        onChange={(offset) => set({ anchor: { ...cue.anchor, offset } })}
      />
      <SecondsField label={say('sounds.fadeIn')} value={cue.fadeIn} least={0} onChange={(fadeIn) => set({ fadeIn })} />
      <SecondsField
        label={say('sounds.fadeOut')}
        value={cue.fadeOut}
        least={0}
        onChange={(fadeOut) => set({ fadeOut })}
      />
      <label htmlFor={`caption-${cue.id}`}>
        {cue.track === 'voice' ? say('sounds.whatItSays') : say('sounds.inCaptions')}
      </label>
      <Input
        id={`caption-${cue.id}`}
        className={styles.wide!}
        value={caption.value}
        maxLength={LIMITS.captionCharacters}
        placeholder={cue.track === 'voice' ? say('sounds.nothing') : say('sounds.nothingForExampleA')}
        onChange={({ target }) => caption.onChange(target.value)}
        onBlur={caption.onBlur}
      />
      <Checkbox className={styles.wide!} checked={cue.meant} onChange={({ target }) => set({ meant: target.checked })}>
        {say('sounds.soundingOverWordsIs')}
      </Checkbox>
    </div>
  )
}

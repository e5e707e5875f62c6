'use client'

import { Switch } from 'antd'
import { TRACKS, type TrackName } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { useDesk, useLesson } from '../../lesson/context'
import { TargetSlider } from '../../lesson/TargetSlider'
import { NumberField } from '../../parts/NumberField'
import { useHearing } from '../../player/useHearing'
import styles from '../panel.module.css'

const names = (): Record<TrackName, string> => ({
  voice: say('music.voice'),
  recordings: say('music.recordings'),
  sounds: say('music.effects'),
  bed: say('music.music'),
})

/** Levels of the tracks, which of them are in the mix, and which one is heard alone just now. */
export function Tracks() {
  const { store } = useDesk()
  const { tracks } = useLesson()
  const [alone, hear] = useHearing()
  return (
    <>
      <h2 className={styles.heading} style={{ marginTop: 14 }}>
        {say('music.tracks')}
      </h2>
      <table className={styles.tracks}>
        <thead>
          <tr>
            <th>{say('music.track')}</th>
            <th>{say('music.level')}</th>
            <th>{say('music.inTheMix')}</th>
            <th>{say('music.alone')}</th>
          </tr>
        </thead>
        <tbody>
          {TRACKS.map((track) => {
            const { gain, muted } = tracks[track]
            const set = (part: { gain?: number; muted?: boolean }) =>
              store.getState().edit({ name: 'setTrack', track, gain, muted, ...part })
            return (
              <tr key={track}>
                <td>{names()[track]}</td>
                <td>
                  <NumberField
                    size="small"
                    aria-label={say('music.levelOf', { track: names()[track] })}
                    min={-60}
                    max={24}
                    step={0.5}
                    value={gain}
                    suffix="dB"
                    style={{ width: 88 }}
                    onChange={(next) => next !== null && set({ gain: next })}
                  />
                </td>
                <td>
                  <Switch
                    size="small"
                    aria-label={say('music.trackInTheMix', { track: names()[track] })}
                    checked={!muted}
                    onChange={(on) => set({ muted: !on })}
                  />
                </td>
                <td>
                  <Switch
                    size="small"
                    aria-label={say('music.hearAlone', { track: names()[track] })}
                    checked={alone === track}
                    onChange={(on) => hear(on ? track : 'all')}
                  />
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className={styles.note}>{say('music.aloneIsOnlyFor')}</p>
      <TargetSlider target="recordingsUnder" />
      <TargetSlider target="effectsUnder" />
    </>
  )
}

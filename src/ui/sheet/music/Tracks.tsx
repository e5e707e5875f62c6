'use client'

import { Switch } from 'antd'
import { TRACKS, type TrackName } from '@/core/lesson/document'
import { useDesk, useLesson } from '../../lesson/context'
import { TargetSlider } from '../../lesson/TargetSlider'
import { NumberField } from '../../parts/NumberField'
import { useHearing } from '../../player/useHearing'
import styles from '../panel.module.css'

const NAMES: Record<TrackName, string> = {
  voice: 'Voice',
  recordings: 'Recordings',
  sounds: 'Effects',
  bed: 'Music',
}

/** Levels of the tracks, which of them are in the mix, and which one is heard alone just now. */
export function Tracks() {
  const { store } = useDesk()
  const { tracks } = useLesson()
  const [alone, hear] = useHearing()
  return (
    <>
      <h2 className={styles.heading} style={{ marginTop: 14 }}>
        Tracks
      </h2>
      <table className={styles.tracks}>
        <thead>
          <tr>
            <th>Track</th>
            <th>Level</th>
            <th>In the mix</th>
            <th>Alone</th>
          </tr>
        </thead>
        <tbody>
          {TRACKS.map((track) => {
            const { gain, muted } = tracks[track]
            const set = (part: { gain?: number; muted?: boolean }) =>
              store.getState().edit({ name: 'setTrack', track, gain, muted, ...part })
            return (
              <tr key={track}>
                <td>{NAMES[track]}</td>
                <td>
                  <NumberField
                    size="small"
                    aria-label={`Level of ${NAMES[track]}`}
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
                    aria-label={`${NAMES[track]} in the mix`}
                    checked={!muted}
                    onChange={(on) => set({ muted: !on })}
                  />
                </td>
                <td>
                  <Switch
                    size="small"
                    aria-label={`Hear ${NAMES[track]} alone`}
                    checked={alone === track}
                    onChange={(on) => hear(on ? track : 'all')}
                  />
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className={styles.note}>‘Alone’ is only for listening now. The music follows the voice at any level.</p>
      <TargetSlider target="recordingsUnder" />
      <TargetSlider target="effectsUnder" />
    </>
  )
}

'use client'

import { useRef } from 'react'
import { CORRIDOR, targetAt } from '@/core/mix/balanceSheet'
import { clamp } from '@/core/units'
import type { MixPicture } from '@/workers/protocol'
import { say } from '@/messages/say'
import { signed } from '../format'
import { useDesk, useLessonState } from '../lesson/context'
import { useFrames } from '../player/useFrames'
import styles from './easel.module.css'

const SCALE = { low: -54, high: -9 } // LUFS over the meter's width
const TRACKS = [
  { name: 'voice', label: 'easel.voice' },
  { name: 'bed', label: 'easel.music' },
  { name: 'sum', label: 'easel.both' },
] as const

/** Loudness of this moment, and how far the music lies under the voice. */
export function Meters() {
  const { player } = useDesk()
  const mix = useLessonState((state) => state.mix)
  const root = useRef<HTMLDivElement>(null)
  useFrames(() => {
    if (root.current && mix) showMoment(root.current, mix, player.position())
  })
  return (
    <div ref={root} className={styles.meters} role="group" aria-label={say('easel.meters')}>
      <div className={styles.reading}>
        <b data-part="clearance">–</b>
        <span data-part="words">{say('easel.nobodySpeaks')}</span>
        <span className={styles.verdict} data-part="verdict" />
      </div>
      {TRACKS.map(({ name, label }) => (
        <div key={name} className={styles.meter}>
          {say(label)}
          <span className={styles.bar}>
            <i className={styles[name]} data-bar={name} />
          </span>
          <span className={styles.figure} data-figure={name} />
        </div>
      ))}
    </div>
  )
}

/** Written straight into the page: this runs at every frame. */
function showMoment(root: HTMLElement, mix: MixPicture, time: number): void {
  const hop = Math.min(mix.voice.length - 1, Math.round(time * 10))
  for (const { name } of TRACKS) {
    const level = mix[name][hop] ?? -Infinity
    const share = clamp((level - SCALE.low) / (SCALE.high - SCALE.low), 0, 1)
    part(root, `[data-bar=${name}]`).style.transform = `scaleX(${share.toFixed(3)})`
    part(root, `[data-figure=${name}]`).textContent = level > -70 ? signed(level) : say('easel.silent')
  }
  const clearance = mix.clearance[hop] ?? NaN
  const speaks = !Number.isNaN(clearance)
  const target = targetAt(mix.targets, time)
  const held = Math.abs(clearance - target) <= CORRIDOR
  part(root, '[data-part=clearance]').textContent = speaks ? clearance.toFixed(1) : '–'
  part(root, '[data-part=words]').textContent = speaks ? say('easel.luUnderTheVoice') : say('easel.nobodySpeaks')
  const verdict = part(root, '[data-part=verdict]')
  verdict.textContent = speaks ? `${held ? 'within' : 'outside'} ${target} ± ${CORRIDOR}` : ''
  verdict.dataset.held = speaks ? (held ? 'yes' : 'no') : ''
}

const part = (root: HTMLElement, selector: string) => root.querySelector<HTMLElement>(selector)!

'use client'

import { CaretRightFilled } from '@/ui/parts/icons'
import { Button } from 'antd'
import type { BalancePicture } from '@/core/mix/balancePicture'
import { CORRIDOR } from '@/core/mix/balanceSheet'
import { say } from '@/messages/say'
import { clock, decimal } from '../format'
import { useDesk, useLesson } from '../lesson/context'
import styles from './balance.module.css'

/** Heard before and after a moment, in seconds. */
const AROUND = 2

/** Where the music is furthest from what was asked for, each one click from being heard. */
export function Worst({ balance }: { balance: BalancePicture }) {
  const { player } = useDesk()
  const { steps } = useLesson()
  return (
    <section className={styles.card} aria-label={say('balance.worstMoments')}>
      <h2>{say('balance.worstMoments')}</h2>
      <ul className={styles.worst}>
        {balance.worst.map(({ from, to, step, clearance, target }) => {
          const index = steps.findIndex(({ id }) => id === step)
          const off = clearance - target
          return (
            <li key={from} data-outside={Math.abs(off) > CORRIDOR ? 'yes' : undefined}>
              <Button
                size="small"
                type="text"
                icon={<CaretRightFilled />}
                aria-label={say('balance.hear', { from: clock(from) })}
                onClick={() => void player.play(Math.max(0, from - AROUND), to + AROUND)}
              />
              <span>{clock(from)}</span>
              <span className={styles.where}>
                {index >= 0 && say('balance.stepTitle', { number: index + 1, title: steps[index]!.title })}
                <small>{off < 0 ? say('balance.theMusicComesClose') : say('balance.theMusicIsFaint')}</small>
              </span>
              <b>{say('balance.lu', { clearance: decimal(clearance, 1) })}</b>
            </li>
          )
        })}
      </ul>
      {balance.worst.length === 0 && <p className={styles.note}>{say('balance.thereIsNoMusic')}</p>}
      {balance.worst.length > 0 &&
        balance.worst.every(({ clearance, target }) => Math.abs(clearance - target) <= CORRIDOR) && (
          <p className={styles.note}>{say('balance.allOfTheseAre', { corridor: CORRIDOR })}</p>
        )}
      {balance.seams.length > 0 && <Seams seams={balance.seams} />}
    </section>
  )
}

/** A seam with a lower score can't be told from the piece itself; from the higher one on it is heard. */
const SEAM = { smooth: 6, heard: 9 }

function Seams({ seams }: { seams: BalancePicture['seams'] }) {
  const { player } = useDesk()
  return (
    <>
      <h2 className={styles.second}>{say('balance.joinsInTheMusic')}</h2>
      <ul className={styles.worst}>
        {seams.map(({ at, score }) => (
          <li key={at} data-outside={score >= SEAM.heard ? 'yes' : undefined}>
            <Button
              size="small"
              type="text"
              icon={<CaretRightFilled />}
              aria-label={say('balance.hearTheJoinAt', { at: clock(at) })}
              onClick={() => void player.play(Math.max(0, at - AROUND), at + AROUND)}
            />
            <span>{clock(at)}</span>
            <span className={styles.where} />
            <b>
              {score < SEAM.smooth
                ? 'smooth'
                : score < SEAM.heard
                  ? say('balance.nearlySmooth')
                  : say('balance.canBeHeard')}
            </b>
          </li>
        ))}
      </ul>
    </>
  )
}

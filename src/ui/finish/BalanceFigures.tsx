import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { clock, percent, signed } from '../format'
import { Explained } from '../parts/Explained'
import type { Term } from '../parts/terms'
import styles from './finish.module.css'

/** Kept exports of earlier editions don't know it. */
const motionOf = (motion: BalanceSheet['motion'] | undefined) =>
  motion ? `${motion.bumps.toFixed(1)} times a minute` : '–'

/** What was measured in a finished file, decoded again. */
export function BalanceFigures({ balance }: { balance: BalanceSheet }) {
  const share = (value: number | null) => (value === null ? 'no voice or no music' : percent(value))
  const figures: [string, string, Term?][] = [
    ['Music where it should be', share(balance.within), 'corridor'],
    ['Voice covered', share(balance.masked), 'masked'],
    ['Music not heard', share(balance.lost), 'lost'],
    ['Music under the voice', balance.clearance === null ? '–' : `${balance.clearance.toFixed(1)} LU`, 'under'],
    ['Music heard to pump', motionOf(balance.motion), 'bumps'],
    ['Loudness', balance.loudness === null ? 'silent' : `${signed(balance.loudness)} LUFS`, 'lufs'],
    ['True peak', balance.truePeak === null ? 'silent' : `${signed(balance.truePeak)} dBTP`, 'truePeak'],
    ['Length of the picture', balance.pictureLength === null ? '–' : clock(balance.pictureLength)],
    ['Length of the sound', clock(balance.soundLength)],
  ]
  return (
    <dl className={styles.balance} aria-label="Balance sheet">
      {figures.map(([name, value, term]) => (
        <div key={name}>
          <dt>{term ? <Explained term={term}>{name}</Explained> : name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  )
}

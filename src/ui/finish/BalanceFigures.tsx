import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { clock, percent, signed } from '../format'
import styles from './finish.module.css'

/** What was measured in a finished file, decoded again. */
export function BalanceFigures({ balance }: { balance: BalanceSheet }) {
  const share = (value: number | null) => (value === null ? 'no voice or no music' : percent(value))
  const figures: [string, string][] = [
    ['Spoken time in the corridor', share(balance.within)],
    ['Voice masked', share(balance.masked)],
    ['Music lost', share(balance.lost)],
    ['Music under the voice', balance.clearance === null ? '–' : `${balance.clearance.toFixed(1)} LU`],
    ['Loudness', balance.loudness === null ? 'silent' : `${signed(balance.loudness)} LUFS`],
    ['True peak', balance.truePeak === null ? 'silent' : `${signed(balance.truePeak)} dBTP`],
    ['Length of the picture', balance.pictureLength === null ? '–' : clock(balance.pictureLength)],
    ['Length of the sound', clock(balance.soundLength)],
  ]
  return (
    <dl className={styles.balance} aria-label="Balance sheet">
      {figures.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  )
}

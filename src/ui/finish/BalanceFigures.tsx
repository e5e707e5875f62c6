import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { say } from '@/messages/say'
import { clock, decimal, percent, signed } from '../format'
import { Explained } from '../parts/Explained'
import type { Term } from '../parts/terms'
import styles from './finish.module.css'

/** Kept exports of earlier editions don't know it. */
const motionOf = (motion: BalanceSheet['motion'] | undefined) =>
  motion ? say('finish.timesAMinute', { bumps: decimal(motion.bumps, 1) }) : '–'

/** What was measured in a finished file, decoded again. */
export function BalanceFigures({ balance }: { balance: BalanceSheet }) {
  const share = (value: number | null) => (value === null ? say('finish.noVoiceOrNo') : percent(value))
  const figures: [string, string, Term?][] = [
    [say('finish.musicWhereItShould'), share(balance.within), 'corridor'],
    [say('finish.voiceCovered'), share(balance.masked), 'masked'],
    [say('finish.musicNotHeard'), share(balance.lost), 'lost'],
    [say('finish.musicUnderTheVoice'), balance.clearance === null ? '–' : `${decimal(balance.clearance)} LU`, 'under'],
    [say('finish.musicHeardToPump'), motionOf(balance.motion), 'bumps'],
    [
      say('finish.loudness'),
      balance.loudness === null ? say('finish.silent') : `${signed(balance.loudness)} LUFS`,
      'lufs',
    ],
    [
      say('finish.truePeak'),
      balance.truePeak === null ? say('finish.silent') : `${signed(balance.truePeak)} dBTP`,
      'truePeak',
    ],
    [say('finish.lengthOfThePicture'), balance.pictureLength === null ? '–' : clock(balance.pictureLength)],
    [say('finish.lengthOfTheSound'), clock(balance.soundLength)],
  ]
  return (
    <dl className={styles.balance} aria-label={say('finish.balanceSheet')}>
      {figures.map(([name, value, term]) => (
        <div key={name}>
          <dt>{term ? <Explained term={term}>{name}</Explained> : name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  )
}

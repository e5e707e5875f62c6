'use client'

import { Button, Progress } from 'antd'
import { useState } from 'react'
import { isUnderWay, type ExportStatus } from '@/core/messages/job'
import { outputOf } from '@/core/delivery/outputs'
import { say } from '@/messages/say'
import { dateAndTime, megabytes } from '../format'
import { BalanceFigures } from './BalanceFigures'
import { Played } from './Played'
import { titleOf } from './outputGroups'
import styles from './finish.module.css'

/** What was made: the newest, or what was chosen, is watched right there; the rest is listed. */
export function Made({ made, onRemove }: { made: readonly ExportStatus[]; onRemove: (one: ExportStatus) => void }) {
  const [chosen, setChosen] = useState<string | null>(null)
  const open = made.find(({ id }) => id === chosen) ?? made[0]
  return (
    <section className={styles.card} aria-label={say('finish.made')}>
      <h2>{say('finish.whatWasMade')}</h2>
      {made.length === 0 && <p className={styles.note}>{say('finish.nothingYetWhatYou')}</p>}
      <ul className={styles.made}>
        {made.map((one) => (
          <MadeFile
            key={one.id}
            one={one}
            isOpen={one === open}
            onOpen={() => setChosen(one.id)}
            onRemove={() => onRemove(one)}
          />
        ))}
      </ul>
    </section>
  )
}

interface MadeFileProps {
  one: ExportStatus
  isOpen: boolean
  onOpen: () => void
  onRemove: () => void
}

function MadeFile({ one, isOpen, onOpen, onRemove }: MadeFileProps) {
  const when = dateAndTime(one.createdAt)
  const { kind } = outputOf(one.input.file)
  const isPlayed = kind === 'video' || kind === 'sound' || kind === 'voice'
  return (
    <li data-export={one.state}>
      <div className={styles.madeHead}>
        <b>{titleOf(one.input.file)}</b>
        <span className={styles.gap} />
        {!isOpen && one.state === 'done' && (
          <Button size="small" onClick={onOpen}>
            {say('finish.show')}
          </Button>
        )}
        {one.state === 'done' && (
          <Button size="small" type="primary" href={`/api/jobs/${one.id}/file`}>
            {say('finish.download')}
          </Button>
        )}
        <Button size="small" onClick={onRemove}>
          {isUnderWay(one) ? say('finish.cancel') : say('finish.remove')}
        </Button>
      </div>
      <p className={styles.detail}>
        {one.result
          ? say(one.isOutdated ? 'finish.madeBefore' : 'finish.madeAt', { when, size: megabytes(one.result.bytes) })
          : when}
      </p>
      {isUnderWay(one) && (
        <Progress percent={Math.floor(one.progress * 100)} status="active" aria-label={say('finish.progress')} />
      )}
      {one.state === 'failed' && (
        <p className={styles.error} role="alert">
          {one.error}
        </p>
      )}
      {one.state === 'cancelled' && <p className={styles.detail}>{say('finish.cancelled')}</p>}
      {isOpen && one.state === 'done' && isPlayed && <Played one={one} />}
      {isOpen && one.result?.balance && (
        <>
          <BalanceFigures balance={one.result.balance} />
          <p className={styles.detail}>
            {say.rich('finish.measured', {
              page: (words) => <a href={`/api/jobs/${one.id}/measured`}>{words}</a>,
              data: (words) => <a href={`/api/jobs/${one.id}/measured?as=json`}>{words}</a>,
            })}
          </p>
        </>
      )}
    </li>
  )
}

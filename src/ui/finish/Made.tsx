'use client'

import { Button, Progress } from 'antd'
import { useState } from 'react'
import { isUnderWay, type ExportStatus } from '@/core/messages/job'
import { outputOf } from '@/core/delivery/outputs'
import { megabytes } from '../format'
import { BalanceFigures } from './BalanceFigures'
import { Played } from './Played'
import { titleOf } from './outputGroups'
import styles from './finish.module.css'

/** What was made: the newest, or what was chosen, is watched right there; the rest is listed. */
export function Made({ made, onRemove }: { made: readonly ExportStatus[]; onRemove: (one: ExportStatus) => void }) {
  const [chosen, setChosen] = useState<string | null>(null)
  const open = made.find(({ id }) => id === chosen) ?? made[0]
  return (
    <section className={styles.card} aria-label="Made">
      <h2>What was made</h2>
      {made.length === 0 && (
        <p className={styles.note}>
          Nothing yet. What you make stays here, to be watched and downloaded, with what was measured in it.
        </p>
      )}
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
  const when = new Date(one.createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
  const { kind } = outputOf(one.input.file)
  const isPlayed = kind === 'video' || kind === 'sound' || kind === 'voice'
  return (
    <li data-export={one.state}>
      <div className={styles.madeHead}>
        <b>{titleOf(one.input.file)}</b>
        <span className={styles.gap} />
        {!isOpen && one.state === 'done' && (
          <Button size="small" onClick={onOpen}>
            Show
          </Button>
        )}
        {one.state === 'done' && (
          <Button size="small" type="primary" href={`/api/jobs/${one.id}/file`}>
            Download
          </Button>
        )}
        <Button size="small" onClick={onRemove}>
          {isUnderWay(one) ? 'Cancel' : 'Remove'}
        </Button>
      </div>
      <p className={styles.detail}>
        {when}
        {one.result && ` · ${megabytes(one.result.bytes)}`}
        {one.isOutdated && ' · the lesson has changed since'}
      </p>
      {isUnderWay(one) && <Progress percent={Math.floor(one.progress * 100)} status="active" aria-label="Progress" />}
      {one.state === 'failed' && (
        <p className={styles.error} role="alert">
          {one.error}
        </p>
      )}
      {one.state === 'cancelled' && <p className={styles.detail}>Cancelled.</p>}
      {isOpen && one.state === 'done' && isPlayed && <Played one={one} />}
      {isOpen && one.result?.balance && (
        <>
          <BalanceFigures balance={one.result.balance} />
          <p className={styles.detail}>
            What was measured, as <a href={`/api/jobs/${one.id}/measured`}>a page</a> or{' '}
            <a href={`/api/jobs/${one.id}/measured?as=json`}>for programs (JSON)</a>
          </p>
        </>
      )}
    </li>
  )
}

'use client'

import { CloseOutlined } from '@ant-design/icons'
import { Button, Progress, Select } from 'antd'
import type { MediaInfo } from '@/core/messages/media'
import { clock } from '../format'
import { sayState, shareOf } from '../uploads/arrivals'
import type { Arrival } from '../uploads/upload'
import styles from './home.module.css'

/** What a sound is taken for. */
export type Role = 'voice' | 'music' | 'leave'

const ROLES: { value: Role; label: string }[] = [
  { value: 'voice', label: 'narration' },
  { value: 'music', label: 'music' },
  { value: 'leave', label: 'leave it out' },
]

interface FileLineProps {
  arrival: Arrival
  /** Null: it could not be told, so the author is asked. Undefined: not known yet. */
  role: Role | null | undefined
  onRole: (role: Role) => void
  onDrop: () => void
}

/** A file that was dropped: how far it is, and what it is taken for. */
export function FileLine({ arrival, role, onRole, onDrop }: FileLineProps) {
  const media = arrival.status?.result?.media
  return (
    <li data-failed={arrival.error ? 'yes' : undefined} data-file={arrival.name}>
      <b>{arrival.name}</b>
      <span className={styles.what} role={arrival.error ? 'alert' : undefined}>
        {media ? sayMedia(media) : sayState(arrival)}
        {!media && !arrival.error && (
          <Progress percent={Math.round(shareOf(arrival) * 100)} showInfo={false} size="small" />
        )}
      </span>
      {media?.kind === 'sound' && role !== undefined ? (
        <Select
          size="small"
          aria-label={`What ${arrival.name} is`}
          value={role}
          placeholder="what is it?"
          status={role === null ? 'warning' : undefined}
          options={ROLES}
          onChange={onRole}
          style={{ width: 130 }}
        />
      ) : (
        <span className={styles.fixedRole}>{media ? 'picture' : ''}</span>
      )}
      <Button
        size="small"
        type="text"
        icon={<CloseOutlined />}
        aria-label={`Take ${arrival.name} out`}
        onClick={onDrop}
      />
    </li>
  )
}

function sayMedia(media: MediaInfo): string {
  return [whatItIs(media), media.note].filter(Boolean).join('. ')
}

function whatItIs({ kind, pages, notes, length }: MediaInfo): string {
  if (kind === 'deck') {
    const noted = notes.filter(Boolean).length
    return `${pages.length} slides${noted > 0 ? `, what to say on ${noted} of them` : ''}`
  }
  if (kind === 'still') return 'one slide'
  return `${kind === 'recording' ? 'recording' : 'sound'}, ${clock(length ?? 0, false)}`
}

'use client'

import { CloseOutlined } from '@/ui/parts/icons'
import { Button, Progress, Select } from 'antd'
import type { MediaInfo } from '@/core/messages/media'
import { say } from '@/messages/say'
import { clock } from '../format'
import { sayState, shareOf } from '../uploads/arrivals'
import type { Arrival } from '../uploads/upload'
import styles from './home.module.css'

/** What a sound is taken for. */
export type Role = 'voice' | 'music' | 'leave'

const roles = (): { value: Role; label: string }[] => [
  { value: 'voice', label: say('home.narration') },
  { value: 'music', label: say('home.music') },
  { value: 'leave', label: say('home.leaveItOut') },
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
          aria-label={say('home.whatIs', { name: arrival.name })}
          value={role}
          placeholder={say('home.whatIsIt')}
          status={role === null ? 'warning' : undefined}
          options={roles()}
          onChange={onRole}
          style={{ width: 130 }}
        />
      ) : (
        <span className={styles.fixedRole}>{media && media.kind !== 'sound' ? say('home.picture') : ''}</span>
      )}
      <Button
        size="small"
        type="text"
        icon={<CloseOutlined />}
        aria-label={say('home.takeOut', { name: arrival.name })}
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
    return say(noted > 0 ? 'home.slidesWithNotes' : 'home.slides', { count: pages.length, noted })
  }
  if (kind === 'still') return say('home.oneSlide')
  return say(kind === 'recording' ? 'home.recordingOf' : 'home.soundOf', { length: clock(length ?? 0, false) })
}

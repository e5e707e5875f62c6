'use client'

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Modal, Typography } from 'antd'
import type { LessonDocument } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/messages/media'
import { tell } from '@/core/lesson/telling'
import { say } from '@/messages/say'
import { dateAndTime } from '../format'
import { call } from '../api'
import { useDesk } from './context'
import styles from './versions.module.css'

interface Version {
  revision: number
  savedAt: string
  name: string | null
}

const APART = 5 * 60 * 1000 // ms: versions closer together than this are shown as one
const LONGEST_NAME = 100

/** Versions of the lesson as they were saved; bringing one back is an edit like any other. */
export function EarlierVersions({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { id, store } = useDesk()
  const { message } = App.useApp()
  const queries = useQueryClient()
  const queryKey = ['revisions', id]
  const { data } = useQuery({
    queryKey,
    queryFn: () => call<Version[]>(`/api/lessons/${id}/revisions`),
    enabled: open,
    staleTime: 0,
  })
  const orSayWhy = async (work: () => Promise<void>) => {
    try {
      await work()
    } catch (error) {
      void message.error((error as Error).message)
    }
  }

  const bringBack = (revision: number) =>
    orSayWhy(async () => {
      const { lesson, media } = await call<{ lesson: LessonDocument; media: MediaInfo[] }>(
        `/api/lessons/${id}/revisions/${revision}`,
      )
      store.getState().addMedia(media)
      if (store.getState().edit({ name: 'restore', lesson: tell(lesson) })) onClose()
    })

  const give = (revision: number, name: string) =>
    orSayWhy(async () => {
      await call(`/api/lessons/${id}/revisions/${revision}`, { method: 'PATCH', body: { name } })
      await queries.invalidateQueries({ queryKey })
    })

  return (
    <Modal title={say('lesson.earlierVersions')} open={open} onCancel={onClose} footer={null}>
      <p className={styles.hint}>{say('lesson.bringingOneBackCan')}</p>
      <ul className={styles.list}>
        {spacedOut(data ?? []).map(({ revision, savedAt, name }) => (
          <li key={revision}>
            <span>{dateAndTime(savedAt)}</span>
            <Typography.Text
              className={styles.name}
              type={name ? undefined : 'secondary'}
              editable={{
                text: name ?? '',
                maxLength: LONGEST_NAME,
                tooltip: name ? say('lesson.changeTheName') : say('lesson.giveItAName'),
                onChange: (next) => next !== (name ?? '') && void give(revision, next),
              }}
            >
              {name ?? say('lesson.noName')}
            </Typography.Text>
            <Button size="small" onClick={() => void bringBack(revision)}>
              {say('lesson.bringBack')}
            </Button>
          </li>
        ))}
      </ul>
    </Modal>
  )
}

/** The newest version of every few minutes, and all that have a name. */
function spacedOut(versions: Version[]): Version[] {
  const kept: Version[] = []
  for (const version of versions) {
    const last = kept.at(-1)
    const isApart = !last || Date.parse(last.savedAt) - Date.parse(version.savedAt) >= APART
    if (isApart || version.name !== null) kept.push(version)
  }
  return kept
}

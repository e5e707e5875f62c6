'use client'

import { useQuery } from '@tanstack/react-query'
import { App, Button, Modal } from 'antd'
import type { LessonDocument } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/lesson/media'
import { tell } from '@/core/lesson/telling'
import { call } from '../api'
import { useDesk } from './context'
import styles from './versions.module.css'

interface Version {
  revision: number
  savedAt: string
}

const APART = 5 * 60 * 1000 // ms: versions closer together than this are shown as one

/** Versions of the lesson as they were saved; bringing one back is an edit like any other. */
export function EarlierVersions({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { id, store } = useDesk()
  const { message } = App.useApp()
  const { data } = useQuery({
    queryKey: ['revisions', id],
    queryFn: () => call<Version[]>(`/api/lessons/${id}/revisions`),
    enabled: open,
    staleTime: 0,
  })

  async function bringBack(revision: number) {
    try {
      const { lesson, media } = await call<{ lesson: LessonDocument; media: MediaInfo[] }>(
        `/api/lessons/${id}/revisions/${revision}`,
      )
      store.getState().addMedia(media)
      if (store.getState().edit({ name: 'restore', lesson: tell(lesson) })) onClose()
    } catch (error) {
      void message.error((error as Error).message)
    }
  }

  return (
    <Modal title="Earlier versions" open={open} onCancel={onClose} footer={null}>
      <p className={styles.hint}>Bringing one back can be undone; nothing is lost.</p>
      <ul className={styles.list}>
        {spacedOut(data ?? []).map(({ revision, savedAt }) => (
          <li key={revision}>
            <span>{new Date(savedAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}</span>
            <Button size="small" onClick={() => void bringBack(revision)}>
              Bring back
            </Button>
          </li>
        ))}
      </ul>
    </Modal>
  )
}

/** The newest version of every few minutes. */
function spacedOut(versions: Version[]): Version[] {
  const kept: Version[] = []
  for (const version of versions) {
    const last = kept.at(-1)
    if (!last || Date.parse(last.savedAt) - Date.parse(version.savedAt) >= APART) kept.push(version)
  }
  return kept
}

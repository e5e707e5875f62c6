'use client'

import { Alert, App, Button, Space } from 'antd'
import { nanoid } from 'nanoid'
import { useRouter } from 'next/navigation'
import { documentOf } from '@/core/lesson/telling'
import { call } from '../api'
import { useDesk, useSaveState } from './context'

/** Shown when another window saved this lesson in between. Both versions are there; the author chooses. */
export function ConflictNotice() {
  const { course, store, autosave } = useDesk()
  const save = useSaveState()
  const { message } = App.useApp()
  const router = useRouter()
  if (save.state !== 'conflict') return null

  async function keepAsCopy() {
    try {
      const { lesson } = store.getState().history
      const { id: copy } = await call<{ id: string }>('/api/lessons', {
        body: { course: course.id, title: `${lesson.title} (copy)`, pictures: [], voices: [], music: [] },
      })
      await call(`/api/lessons/${copy}`, {
        method: 'PUT',
        body: { base: 1, save: nanoid(), lesson: { ...documentOf(lesson), title: `${lesson.title} (copy)` } },
      })
      await autosave.giveUp()
      router.push(`/lessons/${copy}`)
    } catch (error) {
      void message.error((error as Error).message)
    }
  }

  return (
    <Alert
      banner
      type="error"
      title={`This lesson was changed in another window at ${new Date(save.savedAt).toLocaleTimeString()}. What you changed here is kept in this browser but no longer saved, and nothing was overwritten.`}
      action={
        <Space>
          <Button size="small" onClick={() => void keepAsCopy()}>
            Keep this version as a copy
          </Button>
          <Button
            size="small"
            type="primary"
            onClick={() => void autosave.giveUp().then(() => globalThis.location.reload())}
          >
            Open the other version
          </Button>
        </Space>
      }
    />
  )
}

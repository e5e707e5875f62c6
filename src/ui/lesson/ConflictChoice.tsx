'use client'

import { Alert, App, Button, Space } from 'antd'
import { nanoid } from 'nanoid'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { documentOf } from '@/core/lesson/telling'
import { call } from '../api'
import type { SaveState } from './autosave'
import { useDesk } from './context'
import { onDemand } from '../parts/onDemand'

const TwoVersions = onDemand(() => import('./TwoVersions').then((part) => part.TwoVersions))

type Conflict = Extract<SaveState, { state: 'conflict' }>

/** Another window changed the very things that were changed here. Both are there; the author chooses. */
export function ConflictChoice({ save }: { save: Conflict }) {
  const { course, store, autosave } = useDesk()
  const { message } = App.useApp()
  const router = useRouter()
  const [isChoosing, setIsChoosing] = useState(false)

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

  const openOther = () => void autosave.giveUp().then(() => globalThis.location.reload())
  const { meeting, savedAt } = save
  const at = new Date(savedAt).toLocaleTimeString('en-GB', { timeStyle: 'short' })
  return (
    <>
      <Alert
        banner
        type="error"
        title={`Another window changed the same things at ${at} that you changed here. Both are kept and nothing was overwritten; saving waits until you choose.`}
        action={
          <Space>
            {meeting && (
              <Button size="small" type="primary" onClick={() => setIsChoosing(true)}>
                Compare and choose
              </Button>
            )}
            <Button size="small" onClick={() => void keepAsCopy()}>
              Keep this version as a copy
            </Button>
            <Button size="small" onClick={openOther}>
              Open the other version
            </Button>
          </Space>
        }
      />
      {meeting && isChoosing && <TwoVersions meeting={meeting} onClose={() => setIsChoosing(false)} />}
    </>
  )
}

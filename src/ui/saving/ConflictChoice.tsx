'use client'

import { Alert, App, Button, Space } from 'antd'
import { nanoid } from 'nanoid'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { documentOf } from '@/core/lesson/telling'
import { say } from '@/messages/say'
import { timeOfDay } from '../format'
import { call } from '../api'
import type { SaveState } from './autosave'
import { useDesk } from '../lesson/context'
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
        body: {
          course: course.id,
          title: say('lesson.copyOf', { title: lesson.title }),
          pictures: [],
          voices: [],
          music: [],
        },
      })
      await call(`/api/lessons/${copy}`, {
        method: 'PUT',
        body: {
          base: 1,
          save: nanoid(),
          lesson: { ...documentOf(lesson), title: say('lesson.copyOf', { title: lesson.title }) },
        },
      })
      await autosave.giveUp()
      router.push(`/lessons/${copy}`)
    } catch (error) {
      void message.error((error as Error).message)
    }
  }

  const openOther = () => void autosave.giveUp().then(() => globalThis.location.reload())
  const { meeting, savedAt } = save
  const at = timeOfDay(savedAt)
  return (
    <>
      <Alert
        banner
        type="error"
        title={say('lesson.anotherWindowChangedThe', { at })}
        action={
          <Space>
            {meeting && (
              <Button size="small" type="primary" onClick={() => setIsChoosing(true)}>
                {say('lesson.compareAndChoose')}
              </Button>
            )}
            <Button size="small" onClick={() => void keepAsCopy()}>
              {say('lesson.keepThisVersionAs')}
            </Button>
            <Button size="small" onClick={openOther}>
              {say('lesson.openTheOtherVersion')}
            </Button>
          </Space>
        }
      />
      {meeting && isChoosing && <TwoVersions meeting={meeting} onClose={() => setIsChoosing(false)} />}
    </>
  )
}

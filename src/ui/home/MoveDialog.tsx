import { Radio } from 'antd'
import { useState } from 'react'
import type { CourseListing } from '@/core/course/listing'
import { say } from '@/messages/say'
import { Dialog } from '../parts/Dialog'

/** Asks into which course a lesson goes. Mounted while it is open. */
export function MoveDialog({
  lesson,
  courses,
  onMove,
  onClose,
}: {
  lesson: string
  courses: readonly CourseListing[]
  onMove: (course: string) => Promise<boolean>
  onClose: () => void
}) {
  const [chosen, setChosen] = useState(courses[0]!.id)
  const [busy, setBusy] = useState(false)
  const move = async () => {
    setBusy(true)
    if (await onMove(chosen)) onClose()
    setBusy(false)
  }
  return (
    <Dialog
      title={say('home.moveToWhichCourse', { lesson })}
      okText={say('home.moveTheLesson')}
      okButtonProps={{ loading: busy }}
      onOk={() => void move()}
      onCancel={onClose}
    >
      <Radio.Group
        vertical
        aria-label={say('home.course')}
        value={chosen}
        onChange={({ target }) => setChosen(target.value as string)}
        options={courses.map(({ id, title }) => ({ value: id, label: title }))}
      />
    </Dialog>
  )
}

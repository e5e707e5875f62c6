'use client'

import { Alert, App, Button } from 'antd'
import { useState } from 'react'
import type { WaitingFile } from '@/core/messages/arrival'
import { say } from '@/messages/say'
import { useDesk } from '../lesson/context'
import { throwArrivalAway } from './ownArrivals'
import { takeFile } from './takeFile'
import { useThrowAway } from './useThrowAway'

/**
 * A file that somebody else has brought in, for whoever wants it; or one that is not here whole, which goes on when it is
 * brought in again. `trouble`: why it could not be taken.
 */
export function WaitingFileNotice({
  file: { id, name, importId, bytes, size },
  trouble,
  onDone,
}: {
  file: WaitingFile
  trouble: string | undefined
  onDone: () => void
}) {
  const desk = useDesk()
  const { message } = App.useApp()
  const [busy, setBusy] = useState(false)
  const askToDrop = useThrowAway(name, () => throwArrivalAway(id).then(onDone))
  const keep = async (importing: string) => {
    setBusy(true)
    try {
      await takeFile(desk, id, importing)
      onDone()
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(false)
  }
  const percent = size ? Math.floor((bytes / size) * 100) : 0
  const told = importId ? say('uploads.wasBroughtIn', { name }) : say('uploads.brokeOff', { name, percent })
  return (
    <Alert
      type="warning"
      showIcon
      data-testid="waiting-file"
      title={trouble ?? told}
      action={
        <>
          {importId && !trouble && (
            <Button size="small" type="primary" loading={busy} onClick={() => void keep(importId)}>
              {say('uploads.putItOnTheShelf')}
            </Button>
          )}{' '}
          <Button size="small" onClick={askToDrop}>
            {say('booth.throwItAway')}
          </Button>
        </>
      }
    />
  )
}

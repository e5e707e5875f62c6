'use client'

import { App, Button } from 'antd'
import { useEffect } from 'react'
import { say } from '@/messages/say'

/** Says once that the page is older than its server. Whoever loads it again loses nothing: what is not saved is kept. */
export function NewerServerNotice() {
  const { notification } = App.useApp()
  useEffect(() => {
    notification.info({
      key: 'newer-server',
      duration: 0,
      placement: 'bottomRight',
      title: say('parts.serverIsNewer'),
      description: say('parts.loadAgainLosesNothing'),
      actions: (
        <Button type="primary" onClick={() => globalThis.location.reload()}>
          {say('parts.loadAgain')}
        </Button>
      ),
    })
  }, [notification])
  return null
}

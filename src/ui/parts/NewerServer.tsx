'use client'

import { App, Button } from 'antd'
import { useEffect, useSyncExternalStore } from 'react'
import { say } from '@/messages/say'
import { isServerNewer, subscribeToNewer } from '../newerServer'

/** Says once that the page is older than its server. Whoever loads it again loses nothing: what is not saved is kept. */
export function NewerServer() {
  const { notification } = App.useApp()
  const isNewer = useSyncExternalStore(subscribeToNewer, isServerNewer, () => false)
  useEffect(() => {
    if (!isNewer) return
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
  }, [isNewer, notification])
  return null
}

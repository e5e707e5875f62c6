'use client'

import { Button } from 'antd'
import { useEffect } from 'react'
import { say } from '@/messages/say'
import { CrashNotice } from '@/ui/parts/CrashNotice'

/** In place of a page that broke, or that the server could not make: that one is loaded anew once the server is well. */
export default function PageError({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  // Only errors of the server have one.
  const isOfServer = error.digest !== undefined
  useEffect(() => (isOfServer ? loadOnceWell() : undefined), [isOfServer])
  const safe = say('pages.whatYouDidIsSafe')
  return (
    <CrashNotice
      error={error}
      title={isOfServer ? say('pages.cannotBeShownNow') : undefined}
      what={isOfServer ? `${say('pages.comesByItself')} ${safe}` : safe}
      onAgain={isOfServer ? undefined : reset}
    >
      <Button onClick={loadHome}>{say('pages.goToYourCourses')}</Button>
    </CrashNotice>
  )
}

const ASK_EVERY = 2000 // ms
/** A page that breaks though the server is well is loaded no more often than this. */
const LOAD_EVERY = 60_000 // ms
const LOADED_AT = 'yarn-step-page-loaded-at'

function loadOnceWell(): () => void {
  const ask = async () => {
    const { ok } = await fetch('/api/health').catch(() => ({ ok: false }))
    if (!ok) sessionStorage.removeItem(LOADED_AT)
    else if (Date.now() - Number(sessionStorage.getItem(LOADED_AT)) > LOAD_EVERY) {
      sessionStorage.setItem(LOADED_AT, String(Date.now()))
      location.reload()
    }
  }
  const asking = setInterval(() => void ask(), ASK_EVERY)
  return () => clearInterval(asking)
}

// The page is loaded anew: what broke must not go along.
// eslint-disable-next-line @next/next/no-location-assign-relative-destination
const loadHome = () => location.assign('/')

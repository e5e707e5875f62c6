'use client'

import { Button } from 'antd'
import { say } from '@/messages/say'
import { CrashNotice } from '@/ui/parts/CrashNotice'

export default function PageError({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <CrashNotice error={error} what={say('pages.whatYouDidIsSafe')} onAgain={reset}>
      <Button onClick={loadHome}>{say('pages.goToYourCourses')}</Button>
    </CrashNotice>
  )
}

// The page is loaded anew: what broke must not go along.
// eslint-disable-next-line @next/next/no-location-assign-relative-destination
const loadHome = () => location.assign('/')

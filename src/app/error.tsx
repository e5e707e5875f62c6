'use client'

import { Button } from 'antd'
import { CrashNotice } from '@/ui/parts/CrashNotice'

export default function PageError({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <CrashNotice
      error={error}
      what="What you did is safe: it is saved, or kept in this browser and saved when the lesson is opened again."
      onAgain={reset}
    >
      <Button onClick={loadHome}>Go to your courses</Button>
    </CrashNotice>
  )
}

// The page is loaded anew: what broke must not go along.
// eslint-disable-next-line @next/next/no-location-assign-relative-destination
const loadHome = () => location.assign('/')

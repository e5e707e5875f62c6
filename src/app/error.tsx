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
      <Button onClick={() => location.assign('/')}>Go to your courses</Button>
    </CrashNotice>
  )
}

'use client'

import { Progress } from 'antd'
import { useRouter } from 'next/navigation'
import { useEffect, useRef } from 'react'
import { say } from '@/messages/say'
import { Dialog } from '../parts/Dialog'
import { sayState, shareOf } from '../uploads/arrivals'
import { useArrivals } from '../uploads/useArrivals'
import { useRefresh } from './useCourses'

/** Brings in what was saved as a copy: goes to the lesson, or shows the course among the others. */
export function CopyOpening({ file, course, onClose }: { file: File; course: string; onClose: () => void }) {
  const router = useRouter()
  const { arrivals, add, drop } = useArrivals('archive', course)
  const begun = useRef(false)
  useEffect(() => {
    if (begun.current) return
    begun.current = true
    add([file])
  }, [add, file])
  const [arrival] = arrivals
  const { lesson, course: made } = arrival?.status?.result ?? {}
  useEffect(() => {
    if (lesson) router.push(`/lessons/${lesson}`)
  }, [lesson, router])
  const refresh = useRefresh()
  const isShown = useRef(false)
  useEffect(() => {
    if (!made || isShown.current) return
    isShown.current = true
    void refresh().then(onClose)
  }, [made, refresh, onClose])
  return (
    <Dialog
      title={say('home.opening', { name: file.name })}
      okButtonProps={{ hidden: true }}
      cancelText={arrival?.error ? say('home.close') : say('home.cancel')}
      onCancel={() => {
        if (arrival) drop(arrival.key)
        onClose()
      }}
    >
      {arrival && <p role={arrival.error ? 'alert' : 'status'}>{sayState(arrival)}</p>}
      {arrival && !arrival.error && <Progress percent={Math.round(shareOf(arrival) * 100)} showInfo={false} />}
    </Dialog>
  )
}

'use client'

import { Modal, Progress } from 'antd'
import { useRouter } from 'next/navigation'
import { useEffect, useRef } from 'react'
import { sayState, shareOf } from '../uploads/arrivals'
import { useArrivals } from '../uploads/useArrivals'

/** Brings in a lesson that was saved as a copy, and goes to it. */
export function CopyOpening({ file, course, onClose }: { file: File; course: string; onClose: () => void }) {
  const router = useRouter()
  const { arrivals, add, drop } = useArrivals()
  const begun = useRef(false)
  useEffect(() => {
    if (begun.current) return
    begun.current = true
    add([file], 'archive', course)
  }, [add, file, course])
  const [arrival] = arrivals
  const made = arrival?.status?.result?.lesson
  useEffect(() => {
    if (made) router.push(`/lessons/${made}`)
  }, [made, router])
  return (
    <Modal
      open
      title={`Opening ${file.name}`}
      okButtonProps={{ hidden: true }}
      cancelText={arrival?.error ? 'Close' : 'Cancel'}
      onCancel={() => {
        if (arrival) drop(arrival.key)
        onClose()
      }}
    >
      {arrival && <p role={arrival.error ? 'alert' : 'status'}>{sayState(arrival)}</p>}
      {arrival && !arrival.error && <Progress percent={Math.round(shareOf(arrival) * 100)} showInfo={false} />}
    </Modal>
  )
}

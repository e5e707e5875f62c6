'use client'

import { useQuery } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { ImportStatus } from '@/core/lesson/importStatus'
import { call } from '../api'
import { startUpload, type Arrival, type UploadPurpose } from './upload'

/** Files on their way, and how far each has come. `onDone` is called once for each that has arrived. */
export function useArrivals(onDone?: (arrival: Arrival) => void) {
  const [arrivals, setArrivals] = useState<Arrival[]>([])
  const told = useRef(new Set<string>())

  const change = useCallback((key: string, part: Partial<Arrival>) => {
    setArrivals((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)))
  }, [])

  const add = useCallback(
    (files: readonly File[], purpose: UploadPurpose = 'media', course: string | null = null) => {
      const added = files.map((file): Arrival => {
        const key = crypto.randomUUID()
        const cancel = startUpload(file, purpose, course, {
          onProgress: (sent) => change(key, { sent }),
          onWhole: (id) => change(key, { id, sent: 1 }),
          onError: (error) => change(key, { error }),
        })
        return { key, name: file.name, size: file.size, file, id: null, sent: 0, status: null, error: null, cancel }
      })
      setArrivals((all) => [...all, ...added])
    },
    [change],
  )

  const drop = useCallback((key: string) => {
    setArrivals((all) => {
      all.find((one) => one.key === key)?.cancel()
      return all.filter((one) => one.key !== key)
    })
  }, [])

  const waiting = arrivals
    .filter(({ id, status }) => id && status?.state !== 'done' && status?.state !== 'failed')
    .map(({ id }) => id!)
  useQuery({
    queryKey: ['imports', waiting],
    queryFn: async () => {
      const statuses = await call<ImportStatus[]>(`/api/imports?${waiting.map((id) => `id=${id}`).join('&')}`)
      setArrivals((all) => all.map((one) => withStatus(one, statuses)))
      return statuses
    },
    enabled: waiting.length > 0,
    refetchInterval: 400,
    gcTime: 0,
  })

  useEffect(() => {
    for (const arrival of arrivals) {
      if (arrival.status?.state !== 'done' || told.current.has(arrival.key)) continue
      told.current.add(arrival.key)
      onDone?.(arrival)
    }
  }, [arrivals, onDone])

  return { arrivals, add, drop }
}

function withStatus(arrival: Arrival, statuses: readonly ImportStatus[]): Arrival {
  const status = statuses.find(({ id }) => id === arrival.id)
  return status ? { ...arrival, status, error: status.error ?? arrival.error } : arrival
}

export const isDone = (arrival: Arrival) => arrival.status?.state === 'done'

/** One figure for both parts of the way: bytes, then import. */
export const shareOf = ({ sent, status }: Arrival) =>
  sent * 0.5 + (status?.state === 'done' ? 0.5 : (status?.progress ?? 0) * 0.5)

export function sayState({ id, error, status, sent }: Arrival): string {
  if (error) return error
  if (!id) return `sending, ${Math.round(sent * 100)} %`
  if (status?.state === 'done') return 'ready'
  return status?.state === 'working' ? `reading, ${Math.round((status.progress ?? 0) * 100)} %` : 'waiting to be read'
}

'use client'

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App } from 'antd'
import type { OutputName } from '@/core/delivery/outputs'
import { isUnderWay, type ExportStatus } from '@/core/messages/job'
import { call } from '../api'
import { useDesk } from '../lesson/context'
import { titleOf } from './outputGroups'
import { useRemoval } from './useRemoval'

/** Finished files of the lesson and those in the making, newest first. */
export function useExports(): {
  made: ExportStatus[]
  make(name: OutputName): void
  remove(one: ExportStatus): void
} {
  const { id } = useDesk()
  const { message } = App.useApp()
  const client = useQueryClient()
  const key = ['exports', id]
  const { data = [] } = useQuery({
    queryKey: key,
    queryFn: () => call<ExportStatus[]>(`/api/jobs?exports=${id}`),
    refetchInterval: ({ state }) => (state.data?.some(isUnderWay) ? 500 : false),
  })
  async function change(work: () => Promise<unknown>) {
    await work().catch((error: Error) => message.error(error.message))
    await client.invalidateQueries({ queryKey: key })
  }
  const forget = (one: string) => change(() => call(`/api/jobs/${one}`, { method: 'DELETE' }))
  const removal = useRemoval(forget)
  return {
    made: data.filter((one) => !removal.removed.has(one.id)),
    make: (file) => void change(() => call('/api/jobs', { body: { kind: 'export', lesson: id, file } })),
    remove: (one) => (one.state === 'done' ? removal.take(one.id, titleOf(one.input.file)) : void forget(one.id)),
  }
}

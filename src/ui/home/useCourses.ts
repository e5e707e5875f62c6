import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button } from 'antd'
import { createElement, useCallback } from 'react'
import type { CourseListing, DeletedListing } from '@/core/course/listing'
import { say } from '@/messages/say'
import { call } from '../api'
import { savesOfLeftLessons } from '../saving/autosave'

const COURSES = ['courses']
const DELETED = ['deleted']

/** The courses as they are now: a page that was here before may be out of date. */
export function useCourses(listed: CourseListing[]): CourseListing[] {
  const { data } = useQuery({
    queryKey: COURSES,
    queryFn: async () => {
      await savesOfLeftLessons()
      return call<CourseListing[]>('/api/courses')
    },
    initialData: listed,
    refetchOnMount: 'always',
    refetchOnWindowFocus: 'always',
  })
  return data
}

/** What was deleted, and can be brought back. */
export function useDeleted(): DeletedListing[] {
  const { data = [] } = useQuery({ queryKey: DELETED, queryFn: () => call<DeletedListing[]>('/api/deleted') })
  return data
}

/** Shows courses and what was deleted as they are now. */
export function useRefresh(): () => Promise<void> {
  const client = useQueryClient()
  return useCallback(async () => {
    await Promise.all([COURSES, DELETED].map((queryKey) => client.invalidateQueries({ queryKey })))
  }, [client])
}

/** Changes courses or lessons, and shows them as they are then; what goes wrong is said. */
export function useChange(): (work: () => Promise<unknown>) => Promise<boolean> {
  const refresh = useRefresh()
  const { message } = App.useApp()
  return async (work) => {
    try {
      await work()
      return true
    } catch (error) {
      void message.error((error as Error).message)
      return false
    } finally {
      await refresh()
    }
  }
}

const pathOf = ({ kind, id }: Pick<DeletedListing, 'kind' | 'id'>) => `/api/${kind}s/${id}`

export const bringBack = (one: Pick<DeletedListing, 'kind' | 'id'>) =>
  call(pathOf(one), { method: 'PATCH', body: { deleted: false } })

/** Deletes at once, and offers to bring it back. */
export function useRemoval(): (one: Pick<DeletedListing, 'kind' | 'id' | 'title'>) => Promise<void> {
  const change = useChange()
  const { notification } = App.useApp()
  return async (one) => {
    if (!(await change(() => call(pathOf(one), { method: 'DELETE' })))) return
    const key = one.id
    notification.info({
      key,
      title: say('home.isDeleted', { title: one.title }),
      description: say('home.itCanBeBrought'),
      placement: 'bottomRight',
      duration: 12,
      actions: createElement(
        Button,
        { size: 'small', onClick: () => void change(() => bringBack(one)).then(() => notification.destroy(key)) },
        say('home.bringItBack'),
      ),
    })
  }
}

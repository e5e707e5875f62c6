import { useQuery } from '@tanstack/react-query'
import { Tooltip } from 'antd'
import type { CourseSpace } from '@/core/course/space'
import { call } from '../api'
import { megabytes } from '../format'

/** How much room a course takes on the disk, and for what. */
export function CourseRoom({ course }: { course: string }) {
  const { data } = useQuery({
    queryKey: ['space'],
    queryFn: () => call<Record<string, CourseSpace>>('/api/courses/space'),
    staleTime: 30_000,
  })
  const space = data?.[course]
  if (!space) return null
  const { files, kept, made } = space
  return (
    <Tooltip
      title={`${megabytes(files)} for its files, ${megabytes(kept)} kept so that things go quicker (cleared by itself), ${megabytes(made)} for finished files.`}
    >
      <span tabIndex={0}>{megabytes(files + kept + made)}</span>
    </Tooltip>
  )
}

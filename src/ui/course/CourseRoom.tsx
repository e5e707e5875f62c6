import { useQuery } from '@tanstack/react-query'
import { Tooltip } from 'antd'
import type { CourseSpace } from '@/core/course/space'
import { say } from '@/messages/say'
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
  if (!space || space.files + space.kept + space.made === 0) return null
  const { files, kept, made } = space
  const parts = [
    { bytes: files, what: say('course.forItsFiles') },
    { bytes: made, what: say('course.forFinishedFiles') },
    { bytes: kept, what: say('course.keptSoThatThings') },
  ]
  const shown = parts.filter(({ bytes }) => bytes > 0).map(({ bytes, what }) => `${megabytes(bytes)} ${what}`)
  return (
    <>
      {' · '}
      <Tooltip title={`${shown.join('; ')}.`}>
        <span tabIndex={0}>{megabytes(files + kept + made)}</span>
      </Tooltip>
    </>
  )
}

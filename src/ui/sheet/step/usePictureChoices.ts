'use client'

import { useMemo } from 'react'
import type { Picture } from '@/core/lesson/document'
import { picturesOf } from '@/core/lesson/fromFile'
import { useLesson, useLessonState } from '../../lesson/context'

/** Every picture of the shelf. */
export function usePictureChoices(): { key: string; label: string; picture: Picture }[] {
  const { shelf } = useLesson()
  const media = useLessonState((state) => state.media)
  return useMemo(
    () =>
      shelf.flatMap((item) => {
        const info = media.get(item.media)
        return info
          ? picturesOf(info).map(({ title, picture }, i) => ({ key: `${item.media} ${i}`, label: title, picture }))
          : []
      }),
    [shelf, media],
  )
}

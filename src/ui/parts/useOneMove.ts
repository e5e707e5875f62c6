import { useMemo, useRef } from 'react'

/**
 * What moves of a slider belong together, as one step of undo: a whole drag, and a row of keys until the focus goes elsewhere.
 * `frame` stands on what holds the slider; `isFirst` is asked once at each value, and `done` said when one rests.
 */
export function useOneMove() {
  const isNew = useRef(true)
  const isByKeys = useRef(false)
  return useMemo(
    () => ({
      frame: {
        onPointerDownCapture: () => {
          isByKeys.current = false
          isNew.current = true
        },
        onKeyDownCapture: () => void (isByKeys.current = true),
        onBlur: () => void (isNew.current = true),
      },
      isFirst: () => {
        const first = isNew.current
        isNew.current = false
        return first
      },
      done: () => {
        if (!isByKeys.current) isNew.current = true
      },
    }),
    [],
  )
}

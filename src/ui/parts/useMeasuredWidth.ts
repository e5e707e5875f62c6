'use client'

import { useCallback, useState } from 'react'

/** Width of an element, kept up to date; a ref to put on it. */
export function useMeasuredWidth(
  usual: number,
): [width: number, ref: (element: HTMLElement | null) => (() => void) | undefined] {
  const [width, setWidth] = useState(usual)
  const ref = useCallback((element: HTMLElement | null) => {
    if (!element) return
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.round(entry.contentRect.width)))
    observer.observe(element)
    return () => observer.disconnect()
  }, [])
  return [width, ref]
}

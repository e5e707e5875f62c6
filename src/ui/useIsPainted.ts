'use client'

import { useEffect, useState } from 'react'
import { afterPaint } from './afterPaint'

/** False until the screen shows what stands around it. */
export function useIsPainted(): boolean {
  const [isPainted, setIsPainted] = useState(false)
  useEffect(() => {
    let isGone = false
    afterPaint(() => !isGone && setIsPainted(true))()
    return () => {
      isGone = true
    }
  }, [])
  return isPainted
}

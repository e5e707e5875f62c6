'use client'

import { useEffect, useState } from 'react'
import type { BalancePicture } from '@/core/mix/balancePicture'
import { useDesk, useLessonState } from '../lesson/context'

/** What the plan that is heard now looks like; asked for anew whenever the mix has been planned. */
export function useBalance(): BalancePicture | null {
  const { player } = useDesk()
  const mix = useLessonState((state) => state.mix)
  const [picture, setPicture] = useState<BalancePicture | null>(null)
  useEffect(() => {
    if (!mix) return
    let isGone = false
    void player.balance().then((next) => {
      if (!isGone) setPicture(next)
    })
    return () => {
      isGone = true
    }
  }, [player, mix])
  return picture
}

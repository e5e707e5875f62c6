'use client'

import { useEffect, useState } from 'react'
import type { BalancePicture } from '@/core/mix/balancePicture'
import type { StrokesWorth } from '@/core/mix/strokesWorth'
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

/** It is asked for once nothing has changed for so long (ms): it takes the planner as long as a plan does. */
const REST = 800

/** What evening the music's strokes would bring to the plan that is heard now. */
export function useStrokesWorth(): StrokesWorth | null {
  const { player } = useDesk()
  const mix = useLessonState((state) => state.mix)
  const [worth, setWorth] = useState<StrokesWorth | null>(null)
  useEffect(() => {
    if (!mix) return
    let isGone = false
    const timer = setTimeout(async () => {
      const next = await player.strokesWorth()
      if (!isGone) setWorth(next)
    }, REST)
    return () => {
      isGone = true
      clearTimeout(timer)
    }
  }, [player, mix])
  return worth
}

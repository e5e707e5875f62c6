'use client'

import { useEffect, useState } from 'react'
import type { BalancePicture } from '@/core/mix/balancePicture'
import type { StrokesWorth } from '@/core/mix/strokesWorth'
import { useDesk, useLessonState } from '../lesson/context'
import type { Player } from '../player/player'

/** What the planner says of the mix that is heard now, once that has rested for so long (ms); null until it has said so. */
function useOfPlan<T>(ask: (player: Player) => Promise<T | null>, rest: number): T | null {
  const { player } = useDesk()
  const mix = useLessonState((state) => state.mix)
  const [answer, setAnswer] = useState<T | null>(null)
  useEffect(() => {
    if (!mix) return
    let isGone = false
    const timer = setTimeout(async () => {
      const next = await ask(player)
      if (!isGone) setAnswer(next)
    }, rest)
    return () => {
      isGone = true
      clearTimeout(timer)
    }
  }, [player, mix, ask, rest])
  return answer
}

const balance = (player: Player) => player.balance()
/** What it looks like. */
export const useBalance = (): BalancePicture | null => useOfPlan(balance, 0)

/** It takes the planner as long as a plan does. */
const REST = 800
const strokesWorth = (player: Player) => player.strokesWorth()
/** What evening the music's strokes would bring. */
export const useStrokesWorth = (): StrokesWorth | null => useOfPlan(strokesWorth, REST)

'use client'

import { Slider, type SliderSingleProps } from 'antd'
import { useOneMove } from './useOneMove'

type Props = Omit<SliderSingleProps, 'onChange' | 'onChangeComplete' | 'defaultValue'> & {
  value: number
  /** At each value it passes; `isFirst`: a new move begins with it, see `useOneMove`. */
  onMove: (value: number, isFirst: boolean) => void
}

/** A slider by which something is set while it is moved. */
export function MoveSlider({ onMove, ...slider }: Props) {
  const { frame, isFirst, done } = useOneMove()
  return (
    <div {...frame}>
      <Slider {...slider} onChange={(value) => onMove(value, isFirst())} onChangeComplete={done} />
    </div>
  )
}

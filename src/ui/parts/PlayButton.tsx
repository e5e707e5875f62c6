'use client'

import type { ComponentProps } from 'react'
import { CaretRightFilled, PauseOutlined } from './icons'
import styles from './play.module.css'

interface PlayButtonProps extends Omit<ComponentProps<'button'>, 'onClick' | 'aria-label'> {
  playing: boolean
  /** What a press does now, for those who listen. */
  label: string
  /** One of many in a list. */
  isSmall?: boolean
  onPress: () => void
}

/** Plays, and stops what is heard. */
export function PlayButton({ playing, label, isSmall, onPress, ...rest }: PlayButtonProps) {
  return (
    <button {...rest} className={isSmall ? styles.small : styles.play} aria-label={label} onClick={onPress}>
      {playing ? <PauseOutlined /> : <CaretRightFilled />}
    </button>
  )
}

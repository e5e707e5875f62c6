'use client'

import { Button, Popover } from 'antd'
import type { PassageSpan } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import { decimal } from '@/ui/format'
import { say } from '@/messages/say'
import { listenOnce } from '../../player/audition'
import { useDesk } from '../../lesson/context'
import { WORDS_HEIGHT } from './view'
import styles from './row.module.css'

/** Where a part of the take is left out between two passages: it can be listened to, and shown again. */
export function HiddenParts({
  passages,
  from,
  to,
  x,
}: {
  passages: readonly PassageSpan[]
  from: Seconds
  to: Seconds
  x: (time: Seconds) => number
}) {
  const { store, player } = useDesk()
  return passages.slice(1).map((span, i) => {
    const before = passages[i]!.passage
    const hidden = span.passage.from - before.to
    if (before.media !== span.passage.media || hidden < SHORTEST || span.start < from || span.start >= to) return null
    const content = (
      <span className={styles.hiddenActions}>
        <Button
          size="small"
          onClick={() => listenOnce(store, player, { ...before, from: before.to, to: span.passage.from })}
        >
          {say('score.listen')}
        </Button>
        <Button size="small" onClick={() => store.getState().edit({ name: 'showHidden', passage: span.passage.id })}>
          {say('score.showItAgain')}
        </Button>
      </span>
    )
    return (
      <Popover
        key={span.passage.id}
        title={say('score.sAreLeftOut', { hidden: decimal(hidden, 1) })}
        content={content}
        trigger="click"
      >
        <button
          className={styles.hidden}
          style={{ left: x(span.start), top: WORDS_HEIGHT - 4 }}
          aria-label={say('score.secondsAreLeftOut', { hidden: decimal(hidden, 1) })}
        >
          ⋯
        </button>
      </Popover>
    )
  })
}

const SHORTEST: Seconds = 0.02

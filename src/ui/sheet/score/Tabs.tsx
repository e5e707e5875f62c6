'use client'

import type { Seconds } from '@/core/units'
import type { RowTab } from './rowTabs'
import { ThingTab } from './ThingTab'
import type { SheetGeometry } from './view'
import styles from './row.module.css'

const CLASSES = { sound: styles.soundTab!, picture: styles.pictureTab!, layer: styles.layerTab!, bed: styles.musicTab! }

/** Small tabs in a line; a sound's tab is as long as it sounds. */
export function Tabs({
  tabs,
  from,
  to,
  x,
  geometry,
}: {
  tabs: readonly RowTab[]
  from: Seconds
  to: Seconds
  x: (time: Seconds) => number
  geometry: SheetGeometry
}) {
  return tabs
    .filter(({ start }) => start >= from - 1e-6 && start < to)
    .map(({ id, kind, title, start, end }) => (
      <ThingTab
        key={id}
        picked={{ kind, id }}
        label={`${NAMES[kind]}: ${title}`}
        className={CLASSES[kind]}
        style={{
          left: x(start),
          ...(kind === 'sound' && { minWidth: Math.min(x(to) - x(start), (end - start) * geometry.pixelsPerSecond) }),
        }}
      >
        <span aria-hidden="true">{SIGNS[kind]} </span>
        {kind === 'picture' ? <span className="visually-hidden">{title}</span> : title}
      </ThingTab>
    ))
}

const SIGNS = { sound: '◆', picture: '▣', layer: '▤', bed: '♪' }
const NAMES = { sound: 'Sound', picture: 'Picture', layer: 'Over the picture', bed: 'Music' }

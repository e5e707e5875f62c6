'use client'

import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
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
  const shown = tabs.filter(({ start }) => start >= from - 1e-6 && start < to)
  return shown.map(({ id, kind, sign, title, start, end }, i) => (
    <ThingTab
      key={id}
      picked={{ kind, id }}
      label={`${names()[kind]}: ${title}`}
      className={CLASSES[kind]}
      style={{
        left: x(start) + (kind === 'layer' ? LAYER_WIDTH * beside(shown, i, x) : 0),
        ...(kind === 'sound' && { minWidth: Math.min(x(to) - x(start), (end - start) * geometry.pixelsPerSecond) }),
      }}
    >
      <span aria-hidden="true">{sign} </span>
      {kind === 'picture' || kind === 'layer' ? <span className="visually-hidden">{title}</span> : title}
    </ThingTab>
  ))
}

/** Of a layer's tab, in pixels. */
const LAYER_WIDTH = 27

/** How many tabs of layers stand at the same place before this one: they stand beside each other. */
const beside = (tabs: readonly RowTab[], index: number, x: (time: Seconds) => number): number =>
  tabs.slice(0, index).filter(({ kind, start }) => kind === 'layer' && x(tabs[index]!.start) - x(start) < LAYER_WIDTH)
    .length

const names = () => ({
  sound: say('score.sound'),
  picture: say('score.picture'),
  layer: say('score.overThePicture'),
  bed: say('score.music'),
})

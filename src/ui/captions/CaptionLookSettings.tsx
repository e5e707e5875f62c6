'use client'

import { Segmented, Select } from 'antd'
import type { CaptionLook } from '@/core/lesson/layers'
import { useCaptionsShown } from '../easel/captionsShown'
import { useDesk, useLesson } from '../lesson/context'
import panel from '../sheet/panel.module.css'

/** How captions look in the picture, and how fast they may be. */
export function CaptionLookSettings() {
  const { store } = useDesk()
  const { look } = useLesson()
  const { captions } = look
  const set = (part: Partial<CaptionLook>) => {
    store.getState().edit({ name: 'setLook', look: { ...look, captions: { ...captions, ...part } } })
    // One sees what one sets.
    if (!useCaptionsShown.getState().isShown) useCaptionsShown.getState().toggle()
  }
  return (
    <div className={panel.fields}>
      <span>Size</span>
      <Segmented<CaptionLook['size']>
        aria-label="Size of captions"
        value={captions.size}
        options={['small', 'usual', 'large']}
        onChange={(size) => set({ size })}
      />
      <span>Place</span>
      <Segmented<CaptionLook['place']>
        aria-label="Place of captions"
        value={captions.place}
        options={[
          { value: 'lower', label: 'lower edge' },
          { value: 'upper', label: 'upper edge' },
        ]}
        onChange={(place) => set({ place })}
      />
      <span>Ground</span>
      <Segmented<CaptionLook['ground']>
        aria-label="Ground of captions"
        value={captions.ground}
        options={[
          { value: 'box', label: 'dark box' },
          { value: 'outline', label: 'dark outline' },
        ]}
        onChange={(ground) => set({ ground })}
      />
      <span>At most</span>
      <Select
        aria-label="How fast captions may be"
        value={captions.pace}
        options={PACES.map(([value, label]) => ({ value, label }))}
        onChange={(pace) => set({ pace })}
      />
    </div>
  )
}

const PACES: readonly [number, string][] = [
  [12, '12 letters a second, for learners'],
  [15, '15 letters a second, easy'],
  [17, '17 letters a second, usual'],
  [20, '20 letters a second, for fast readers'],
]

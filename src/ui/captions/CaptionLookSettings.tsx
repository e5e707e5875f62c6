'use client'

import { Segmented, Select } from 'antd'
import type { CaptionLook } from '@/core/lesson/layers'
import { say } from '@/messages/say'
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
      <span>{say('captions.size')}</span>
      <Segmented<CaptionLook['size']>
        aria-label={say('captions.sizeOfCaptions')}
        value={captions.size}
        options={[
          { value: 'small', label: say('captions.smallSize') },
          { value: 'usual', label: say('captions.usualSize') },
          { value: 'large', label: say('captions.largeSize') },
        ]}
        onChange={(size) => set({ size })}
      />
      <span>{say('captions.place')}</span>
      <Segmented<CaptionLook['place']>
        aria-label={say('captions.placeOfCaptions')}
        value={captions.place}
        options={[
          { value: 'lower', label: say('captions.lowerEdge') },
          { value: 'upper', label: say('captions.upperEdge') },
        ]}
        onChange={(place) => set({ place })}
      />
      <span>{say('captions.ground')}</span>
      <Segmented<CaptionLook['ground']>
        aria-label={say('captions.groundOfCaptions')}
        value={captions.ground}
        options={[
          { value: 'box', label: say('captions.darkBox') },
          { value: 'outline', label: say('captions.darkOutline') },
        ]}
        onChange={(ground) => set({ ground })}
      />
      <span>{say('captions.atMost')}</span>
      <Select
        aria-label={say('captions.howFastCaptionsMay')}
        value={captions.pace}
        options={paces().map(([value, label]) => ({ value, label }))}
        onChange={(pace) => set({ pace })}
      />
    </div>
  )
}

const paces = (): readonly [number, string][] => [
  [12, say('captions.forLearners')],
  [15, say('captions.easyPace')],
  [17, say('captions.usualPace')],
  [20, say('captions.fastPace')],
]

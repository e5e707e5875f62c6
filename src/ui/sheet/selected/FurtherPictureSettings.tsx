'use client'

import { Select } from 'antd'
import type { Step } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../../lesson/context'
import { PictureThumb } from '../../parts/PictureThumb'
import { sayMark } from '../../words/anchors'
import type { SheetActions } from '../actions/actions'
import { usePictureChoices } from '../step/usePictureChoices'
import { ThingHead } from './ThingHead'
import styles from '../panel.module.css'

interface FurtherPictureSettingsProps {
  step: Step
  id: string
  actions: SheetActions
}

/** A further picture of a step: which one, and from which word on it is seen. */
export function FurtherPictureSettings({ step, id, actions }: FurtherPictureSettingsProps) {
  const { store } = useDesk()
  const state = useLessonState((all) => all)
  const choices = usePictureChoices()
  const further = step.more.find((one) => one.id === id)
  if (!further) return null
  const word = sayMark(state, further.mark)
  return (
    <>
      <ThingHead
        kind={say('selected.picture')}
        title={step.title}
        place={word ? say('selected.seenFromOn', { word }) : say('selected.notSeenTheWords')}
        actions={actions}
      />
      <PictureThumb picture={further.picture} shape={state.history.lesson.frame.shape} className={styles.largeThumb} />
      <Select
        aria-label={say('selected.whichPictureItIs')}
        placeholder={say('selected.showAnotherPictureInstead')}
        value={null}
        style={{ width: '100%' }}
        showSearch={{ optionFilterProp: 'label' }}
        options={choices.map(({ key, label }) => ({ value: key, label }))}
        onChange={(key: string | null) => {
          const choice = choices.find((one) => one.key === key)
          if (choice)
            store.getState().edit({ name: 'changePicture', step: step.id, ...further, picture: choice.picture })
        }}
      />
    </>
  )
}

'use client'

import { Button, Select } from 'antd'
import type { Step } from '@/core/lesson/document'
import type { LayerName } from '@/core/lesson/layers'
import { say } from '@/messages/say'
import { useDesk } from '../lesson/context'
import { layerNames, layerTitle } from './layerNames'
import { putOver } from './putOver'
import styles from './over.module.css'

const choices = (): { label: string; names: LayerName[] }[] => [
  { label: say('over.words'), names: ['title', 'lower line', 'label'] },
  { label: say('over.pointAtSomething'), names: ['ring', 'box', 'underline', 'arrow', 'number'] },
  { label: say('over.hideOrComeNearer'), names: ['cover', 'closer', 'slow move'] },
]

/** What lies over a step's pictures; more can be put there. */
export function OverPictures({ step }: { step: Step }) {
  const desk = useDesk()
  return (
    <div>
      {step.layers.length > 0 && (
        <ul className={styles.list}>
          {step.layers.map((layer) => (
            <li key={layer.id}>
              <Button size="small" onClick={() => desk.store.getState().pick({ kind: 'layer', id: layer.id })}>
                {layerTitle(layer)}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Select
        style={{ width: '100%' }}
        aria-label={say('over.putOverThePicture')}
        placeholder={say('over.putWordsOrA')}
        value={null}
        options={choices().map(({ label, names }) => ({
          label,
          options: names.map((name) => ({ value: name, label: layerNames()[name] })),
        }))}
        onChange={(name: LayerName | null) => name && putOver(desk, step.id, name)}
      />
    </div>
  )
}

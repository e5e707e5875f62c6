'use client'

import { Button, Select } from 'antd'
import type { Step } from '@/core/lesson/document'
import type { LayerName } from '@/core/lesson/layers'
import { useDesk } from '../lesson/context'
import { LAYER_NAMES, layerTitle } from './layerNames'
import { putOver } from './putOver'
import styles from './over.module.css'

const CHOICES: { label: string; names: LayerName[] }[] = [
  { label: 'Words', names: ['title', 'lower line', 'label'] },
  { label: 'Point at something', names: ['ring', 'box', 'underline', 'arrow', 'number'] },
  { label: 'Hide or come nearer', names: ['cover', 'closer', 'slow move'] },
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
        aria-label="Put over the picture"
        placeholder="put words or a pointer over it"
        value={null}
        options={CHOICES.map(({ label, names }) => ({
          label,
          options: names.map((name) => ({ value: name, label: LAYER_NAMES[name] })),
        }))}
        onChange={(name: LayerName | null) => name && putOver(desk, step.id, name)}
      />
    </div>
  )
}

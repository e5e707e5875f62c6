'use client'

import { Button, Select } from 'antd'
import { EDGE_KINDS, type Edge } from '@/core/lesson/layers'
import type { Step } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { useDesk, useLesson } from '../lesson/context'
import { SecondsField } from '../parts/SecondsField'
import panel from '../sheet/panel.module.css'

export const edgeNames = (): Record<Edge['kind'], string> => ({
  cut: say('over.atOnce'),
  dissolve: say('over.fadingIntoTheNext'),
  plain: say('over.throughPlainGround'),
  push: say('over.pushedAsideByThe'),
})

/** How a step's picture gives way to the next one, and how it is throughout the lesson. */
export function EdgeSettings({ step }: { step: Step }) {
  const { store } = useDesk()
  const { edge: usual } = useLesson()
  const { edge } = step
  const set = (next: Edge | null) => store.getState().edit({ name: 'setEdges', steps: [step.id], edge: next })
  const makeUsual = () =>
    edge &&
    store
      .getState()
      .edit(
        { name: 'setLessonEdge', edge },
        { name: 'setEdges', steps: store.getState().history.lesson.steps.map(({ id }) => id), edge: null },
      )
  return (
    <div className={panel.fields}>
      <span>{say('over.givesWay')}</span>
      <Select
        aria-label={say('over.howItGivesWay')}
        value={edge?.kind ?? 'lesson'}
        options={[
          { value: 'lesson', label: say('over.asAllSteps', { kind: edgeNames()[usual.kind] }) },
          ...EDGE_KINDS.map((kind) => ({ value: kind, label: edgeNames()[kind] })),
        ]}
        onChange={(kind: Edge['kind'] | 'lesson') =>
          set(kind === 'lesson' ? null : { kind, length: edge?.length ?? usual.length })
        }
      />
      {edge && <EdgeLength edge={edge} onChange={set} />}
      {edge && (
        <Button size="small" onClick={makeUsual}>
          {say('over.allStepsLikeThis')}
        </Button>
      )}
    </div>
  )
}

/** How long it takes; at once takes no time. */
export function EdgeLength({ edge, onChange }: { edge: Edge; onChange: (edge: Edge) => void }) {
  if (edge.kind === 'cut') return null
  const set = (length: number) => onChange({ ...edge, length })
  return <SecondsField label={say('over.in')} value={edge.length} least={0.1} most={5} onChange={set} />
}

/** How the lesson begins and ends. */
export function EndsSettings() {
  const { store } = useDesk()
  const { opening, closing } = useLesson()
  const set = (ends: { opening: number; closing: number }) => store.getState().edit({ name: 'setEnds', ...ends })
  return (
    <div className={panel.wideFields}>
      <SecondsField
        label={say('over.firstPictureComesOut')}
        value={opening}
        most={10}
        onChange={(next) => set({ opening: next, closing })}
      />
      <SecondsField
        label={say('over.lastPictureGoesInto')}
        value={closing}
        most={10}
        onChange={(next) => set({ opening, closing: next })}
      />
    </div>
  )
}

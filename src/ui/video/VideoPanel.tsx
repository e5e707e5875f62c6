'use client'

import { Select } from 'antd'
import { FRAME_LINES, FRAME_RATES, FRAME_SHAPES, type FrameSettings } from '@/core/lesson/framing'
import { EDGE_KINDS, type Edge } from '@/core/lesson/layers'
import { frameOf, rasterSize } from '@/core/picture/frame'
import { CaptionLookSettings } from '../captions/CaptionLookSettings'
import { useDesk, useLesson } from '../lesson/context'
import { EDGE_NAMES, EdgeLength, EndsSettings } from '../over/EdgeSettings'
import { LookSettings } from '../over/LookSettings'
import panel from '../sheet/panel.module.css'
import { CourseEnds } from './CourseEnds'
import { CourseStyleNote } from './CourseStyle'
import { UsualFramingSettings } from './FramingSettings'
import styles from './video.module.css'

/** What holds for all pictures of a lesson: their shape and size, how they stand, change and are written on. */
export function VideoPanel() {
  const { store } = useDesk()
  const { edit } = store.getState()
  return (
    <>
      <section className={styles.part}>
        <h2 className={panel.heading}>Shape of the video</h2>
        <FrameFields />
      </section>
      <section className={styles.part}>
        <h2 className={panel.heading}>Pictures of another shape</h2>
        <UsualFramingSettings onChange={(framing) => edit({ name: 'setLessonFraming', framing })} />
      </section>
      <section className={styles.part}>
        <h2 className={panel.heading}>From picture to picture</h2>
        <UsualEdge />
        <EndsSettings />
      </section>
      <section className={styles.part}>
        <h2 className={panel.heading}>Words and pointers over pictures</h2>
        <LookSettings />
      </section>
      <section className={styles.part}>
        <h2 className={panel.heading}>Captions in the picture</h2>
        <CaptionLookSettings />
      </section>
      <CourseStyleNote />
      <CourseEnds />
    </>
  )
}

const SHAPE_NAMES: Record<FrameSettings['shape'], string> = {
  '16:9': 'wide',
  '4:3': 'classic slides',
  '1:1': 'square',
  '9:16': 'upright, for phones',
}

function FrameFields() {
  const { store } = useDesk()
  const { frame } = useLesson()
  const set = (part: Partial<FrameSettings>) =>
    store.getState().edit({ name: 'setFrame', frame: { ...frame, ...part } })
  const { width, height } = rasterSize(frameOf(frame))
  return (
    <>
      <div className={styles.shapes} role="group" aria-label="Shape of the video">
        {FRAME_SHAPES.map((shape) => {
          const { width, height } = frameOf({ ...frame, shape })
          return (
            <button
              key={shape}
              aria-pressed={shape === frame.shape}
              aria-label={`${shape.replace(':', ' : ')}, ${SHAPE_NAMES[shape]}`}
              onClick={() => set({ shape })}
            >
              <i style={{ width: width / 60, height: height / 60 }} />
              {shape.replace(':', ' : ')}
            </button>
          )
        })}
      </div>
      <p className={styles.note}>
        {SHAPE_NAMES[frame.shape]}; {width} × {height} pixels
      </p>
      <div className={panel.fields}>
        <span>Lines</span>
        <Select
          aria-label="Lines of the shorter side"
          value={frame.lines}
          options={FRAME_LINES.map((lines) => ({ value: lines, label: LINE_NAMES[lines] }))}
          onChange={(lines) => set({ lines })}
        />
        <span>Rate</span>
        <Select
          aria-label="Pictures a second"
          value={frame.rate}
          options={FRAME_RATES.map((rate) => ({ value: rate, label: `${rate} pictures a second` }))}
          onChange={(rate) => set({ rate })}
        />
      </div>
    </>
  )
}

const LINE_NAMES: Record<FrameSettings['lines'], string> = {
  720: '720, small',
  1080: '1080, usual',
  1440: '1440, fine',
  2160: '2160, finest; takes four times as long',
}

/** How pictures give way to each other, where a step says nothing else. */
function UsualEdge() {
  const { store } = useDesk()
  const { edge } = useLesson()
  const set = (next: Edge) => store.getState().edit({ name: 'setLessonEdge', edge: next })
  return (
    <div className={panel.fields}>
      <span>Give way</span>
      <Select
        aria-label="How pictures give way to each other"
        value={edge.kind}
        options={EDGE_KINDS.map((kind) => ({ value: kind, label: EDGE_NAMES[kind] }))}
        onChange={(kind) => set({ ...edge, kind })}
      />
      <EdgeLength edge={edge} onChange={set} />
    </div>
  )
}

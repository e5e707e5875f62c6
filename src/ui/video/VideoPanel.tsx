'use client'

import { Select } from 'antd'
import { FRAME_LINES, FRAME_RATES, FRAME_SHAPES, type FrameSettings } from '@/core/lesson/framing'
import { EDGE_KINDS, type Edge } from '@/core/lesson/layers'
import { frameOf, rasterSize } from '@/core/picture/frame'
import { say } from '@/messages/say'
import { CaptionLookSettings } from '../captions/CaptionLookSettings'
import { useDesk, useLesson } from '../lesson/context'
import { edgeNames, EdgeLength, EndsSettings } from '../over/EdgeSettings'
import { LookSettings } from '../over/LookSettings'
import panel from '../sheet/panel.module.css'
import { CourseEnds } from './CourseEnds'
import { CourseStyleNote } from './CourseStyle'
import { UsualFramingSettings } from './FramingSettings'
import styles from './video.module.css'

/** What holds for all pictures of a lesson: their shape and size, how they stand, change and are written on. */
export function VideoPanel() {
  const { store } = useDesk()
  return (
    <>
      <section className={styles.part}>
        <h2 className={panel.heading}>{say('video.shapeOfTheVideo')}</h2>
        <FrameFields />
      </section>
      <section className={styles.part}>
        <h2 className={panel.heading}>{say('video.anotherShapeHeading')}</h2>
        <UsualFramingSettings
          onChange={(framing, isFirst) => store.getState().continueEdit({ name: 'setLessonFraming', framing }, isFirst)}
        />
      </section>
      <section className={styles.part}>
        <h2 className={panel.heading}>{say('video.fromPictureToPicture')}</h2>
        <UsualEdge />
        <EndsSettings />
      </section>
      <section className={styles.part}>
        <h2 className={panel.heading}>{say('video.wordsAndPointersOver')}</h2>
        <LookSettings />
      </section>
      <section className={styles.part}>
        <h2 className={panel.heading}>{say('video.captionsInThePicture')}</h2>
        <CaptionLookSettings />
      </section>
      <CourseStyleNote />
      <CourseEnds />
    </>
  )
}

const shapeNames = (): Record<FrameSettings['shape'], string> => ({
  '16:9': say('video.wide'),
  '4:3': say('video.classicSlides'),
  '1:1': say('video.square'),
  '9:16': say('video.uprightForPhones'),
})

function FrameFields() {
  const { store } = useDesk()
  const { frame } = useLesson()
  const set = (part: Partial<FrameSettings>) =>
    store.getState().edit({ name: 'setFrame', frame: { ...frame, ...part } })
  const { width, height } = rasterSize(frameOf(frame))
  return (
    <>
      <div className={styles.shapes} role="group" aria-label={say('video.shapeOfTheVideo')}>
        {FRAME_SHAPES.map((shape) => {
          const { width, height } = frameOf({ ...frame, shape })
          return (
            <button
              key={shape}
              aria-pressed={shape === frame.shape}
              aria-label={`${shape.replace(':', ' : ')}, ${shapeNames()[shape]}`}
              onClick={() => set({ shape })}
            >
              <i style={{ width: width / 60, height: height / 60 }} />
              {shape.replace(':', ' : ')}
            </button>
          )
        })}
      </div>
      <p className={styles.note}>{say('video.pixels', { shape: shapeNames()[frame.shape], width, height })}</p>
      <div className={panel.fields}>
        <span>{say('video.lines')}</span>
        <Select
          aria-label={say('video.linesOfTheShorter')}
          value={frame.lines}
          options={FRAME_LINES.map((lines) => ({ value: lines, label: lineNames()[lines] }))}
          onChange={(lines) => set({ lines })}
        />
        <span>{say('video.rate')}</span>
        <Select
          aria-label={say('video.picturesASecond')}
          value={frame.rate}
          options={FRAME_RATES.map((rate) => ({ value: rate, label: say('video.ratePictures', { rate }) }))}
          onChange={(rate) => set({ rate })}
        />
      </div>
    </>
  )
}

const lineNames = (): Record<FrameSettings['lines'], string> => ({
  720: say('video.lines720'),
  1080: say('video.lines1080'),
  1440: say('video.lines1440'),
  2160: say('video.lines2160'),
})

/** How pictures give way to each other, where a step says nothing else. */
function UsualEdge() {
  const { store } = useDesk()
  const { edge } = useLesson()
  const set = (next: Edge) => store.getState().edit({ name: 'setLessonEdge', edge: next })
  return (
    <div className={panel.fields}>
      <span>{say('video.giveWay')}</span>
      <Select
        aria-label={say('video.howPicturesGiveWayTo')}
        value={edge.kind}
        options={EDGE_KINDS.map((kind) => ({ value: kind, label: edgeNames()[kind] }))}
        onChange={(kind) => set({ ...edge, kind })}
      />
      <EdgeLength edge={edge} onChange={set} />
    </div>
  )
}

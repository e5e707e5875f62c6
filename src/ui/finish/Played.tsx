'use client'

import { useRef } from 'react'
import type { ExportStatus } from '@/core/messages/job'
import { outputOf } from '@/core/delivery/outputs'
import { say } from '@/messages/say'
import { clock } from '../format'
import styles from './finish.module.css'

/** A finished file is watched or listened to where it is listed, with its captions and by its chapters. */
export function Played({ one }: { one: ExportStatus }) {
  const video = useRef<HTMLVideoElement>(null)
  const source = `/api/jobs/${one.id}/file`
  if (outputOf(one.input.file).kind !== 'video')
    return (
      <audio
        className={styles.audio}
        controls
        preload="none"
        src={source}
        aria-label={say('finish.theFinishedSound')}
      />
    )
  const chapters = one.result?.chapters ?? []
  return (
    <>
      <video
        ref={video}
        className={styles.video}
        controls
        preload="metadata"
        src={source}
        aria-label={say('finish.theFinishedVideo')}
      >
        {one.result?.hasCaptions && (
          <track kind="captions" src={`/api/jobs/${one.id}/captions`} label={say('finish.captions')} default />
        )}
      </video>
      {chapters.length > 1 && (
        <ol className={styles.chapters} aria-label={say('finish.chaptersOfTheVideo')}>
          {chapters.map(({ title, start }) => (
            <li key={start}>
              <button type="button" onClick={() => (video.current!.currentTime = start)}>
                <span>{clock(start, false)}</span> {title}
              </button>
            </li>
          ))}
        </ol>
      )}
    </>
  )
}

'use client'

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Progress } from 'antd'
import type { ExportKind } from '@/core/messages/exports'
import { isUnderWay, type ExportStatus } from '@/core/messages/job'
import { call } from '../api'
import { clock, megabytes } from '../format'
import { useDesk, useTimeline, useSaveState } from '../lesson/context'
import { BalanceFigures } from './BalanceFigures'
import { useRemoval } from './useRemoval'
import styles from './finish.module.css'

const KINDS = {
  video: {
    title: 'Video',
    detail: 'MP4 with H.264 and AAC, 1920 × 1080, 30 frames a second. For course and video sites.',
  },
  sound: { title: 'Sound alone', detail: 'WAV, 24 bit, 48 kHz, stereo.' },
} as const
type Kind = keyof typeof KINDS
const TITLES: Record<ExportKind, string> = {
  video: KINDS.video.title,
  sound: KINDS.sound.title,
  'voice-wav': 'Voice alone, WAV',
  'voice-flac': 'Voice alone, FLAC',
}

export function MakeAndMade() {
  const { id } = useDesk()
  const save = useSaveState()
  const { message } = App.useApp()
  const timeline = useTimeline()
  const client = useQueryClient()
  const key = ['exports', id]
  const { data: made = [] } = useQuery({
    queryKey: key,
    queryFn: () => call<ExportStatus[]>(`/api/jobs?exports=${id}`),
    refetchInterval: ({ state }) => (state.data?.some(isUnderWay) ? 500 : false),
  })

  async function change(work: () => Promise<unknown>) {
    await work().catch((error: Error) => message.error(error.message))
    await client.invalidateQueries({ queryKey: key })
  }
  const make = (file: Kind) => change(() => call('/api/jobs', { body: { kind: 'export', lesson: id, file } }))
  const remove = (one: ExportStatus) => change(() => call(`/api/jobs/${one.id}`, { method: 'DELETE' }))

  const removal = useRemoval((one) => change(() => call(`/api/jobs/${one}`, { method: 'DELETE' })))
  const take = (one: ExportStatus) =>
    one.state === 'done' ? removal.take(one.id, TITLES[one.input.file]) : void remove(one)

  return (
    <div className={styles.right}>
      <section className={styles.card} style={{ flex: 'none' }} aria-label="Make">
        <h2>Make</h2>
        <p className={styles.note}>
          {timeline.steps.length} steps, {clock(timeline.length, false)}. It is made on the server; you can go on
          working meanwhile.
        </p>
        <div className={styles.choices}>
          {Object.entries(KINDS).map(([kind, { title, detail }]) => (
            <div key={kind} className={styles.choice}>
              <b>{title}</b>
              <span className={styles.note} style={{ margin: 0 }}>
                {detail}
              </span>
              <Button
                type={kind === 'video' ? 'primary' : 'default'}
                disabled={timeline.steps.length === 0 || save.state !== 'saved'}
                onClick={() => void make(kind as Kind)}
              >
                Make the {kind === 'video' ? 'video' : 'sound file'}
              </Button>
            </div>
          ))}
        </div>
      </section>
      <section className={styles.card} style={{ flex: 1 }} aria-label="Made">
        <h2>Made</h2>
        {made.length === 0 && (
          <p className={styles.note}>Nothing yet. What you make stays here, with what was measured in it.</p>
        )}
        <ul className={styles.made}>
          {made
            .filter(({ id: one }) => !removal.removed.has(one))
            .map((one) => (
              <Made key={one.id} one={one} onRemove={() => take(one)} />
            ))}
        </ul>
      </section>
    </div>
  )
}

function Made({ one, onRemove }: { one: ExportStatus; onRemove: () => void }) {
  const when = new Date(one.createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
  return (
    <li data-export={one.state}>
      <div className={styles.madeHead}>
        <b>{TITLES[one.input.file]}</b>
        <span className={styles.note} style={{ margin: 0 }}>
          {when}
          {one.result && ` · ${megabytes(one.result.bytes)}`}
        </span>
        <span className={styles.gap} />
        {one.state === 'done' && (
          <Button size="small" type="primary" href={`/api/jobs/${one.id}/file`}>
            Download
          </Button>
        )}
        <Button size="small" onClick={onRemove}>
          {isUnderWay(one) ? 'Cancel' : 'Remove'}
        </Button>
      </div>
      {isUnderWay(one) && <Progress percent={Math.floor(one.progress * 100)} status="active" aria-label="Progress" />}
      {one.state === 'failed' && (
        <p className={styles.error} role="alert">
          {one.error}
        </p>
      )}
      {one.state === 'cancelled' && <p className={styles.note}>Cancelled.</p>}
      {one.state === 'done' && <Played one={one} />}
      {one.result?.balance && <BalanceFigures balance={one.result.balance} />}
    </li>
  )
}

/** A finished file is watched or listened to where it is listed. */
function Played({ one }: { one: ExportStatus }) {
  const source = `/api/jobs/${one.id}/file`
  if (one.input.file === 'video')
    return <video className={styles.video} controls preload="metadata" src={source} aria-label="The finished video" />
  return <audio className={styles.audio} controls preload="none" src={source} aria-label="The finished sound" />
}

'use client'

import { Alert, Button, Modal, Progress, Upload } from 'antd'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { ShelfItem } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/messages/media'
import type { PageMatch } from '@/core/messages/job'
import { thumbnailUrl } from '../../api'
import { bringIn } from '../../arrival'
import { useDesk } from '../../lesson/context'
import { runJob } from '../../jobs'
import styles from '../panel.module.css'

const CHANGES: Record<PageMatch['change'], string> = {
  same: 'as before',
  changed: 'changed a little: keeps its words',
  new: 'new: becomes a step',
  gone: 'no longer there: its words stay, on a card',
}

/** A new version of the slides: what became of each page is shown before anything is done. */
export function ReplaceDeck({ item, onClose }: { item: ShelfItem; onClose: () => void }) {
  const { store, course } = useDesk()
  const [found, setFound] = useState<{ info: MediaInfo; pages: PageMatch[] } | null>(null)
  const [state, setState] = useState<{ busy: boolean; error: string | null }>({ busy: false, error: null })
  const compare = async (file: File) => {
    setState({ busy: true, error: null })
    try {
      const info = await bringIn(file, course.id)
      if (info.kind !== 'deck') throw new Error(`These are no slides: ${file.name}. Choose a PDF.`)
      const { pages } = await runJob<'match'>({ kind: 'match', old: item.media, now: info.hash })
      setFound({ info, pages })
      setState({ busy: false, error: null })
    } catch (error) {
      setState({ busy: false, error: (error as Error).message })
    }
  }
  const replace = () => {
    if (!found) return
    const { info, pages } = found
    store.getState().addMedia([info])
    const added = pages.flatMap(({ now, change }) =>
      change === 'new' && now !== null
        ? [{ page: now, id: nanoid(10), title: info.pages[now - 1] || `Page ${now}` }]
        : [],
    )
    const now = { ...item, media: info.hash, source: info.name }
    if (store.getState().edit({ name: 'replaceDeck', old: item.media, now, pages, added })) onClose()
  }
  const differs = found?.pages.filter(({ change }) => change !== 'same') ?? []
  return (
    <Modal
      open
      width={620}
      title={`A new version of “${item.title}”`}
      okText="Replace the slides"
      okButtonProps={{ disabled: !found }}
      onOk={replace}
      onCancel={onClose}
    >
      {state.error && <Alert type="error" title={state.error} />}
      {!found && (
        <Upload showUploadList={false} accept=".pdf" beforeUpload={(file) => (void compare(file), false)}>
          <Button loading={state.busy}>Choose the new PDF…</Button>
        </Upload>
      )}
      {state.busy && <Progress percent={100} status="active" showInfo={false} size="small" />}
      {found && (
        <>
          <p>
            {found.pages.length - differs.length} of {found.info.pages.length} pages are as before and keep their words
            and timing.
          </p>
          <ul className={styles.pages}>
            {differs.map((one) => (
              <li key={`${one.old} ${one.now}`} data-change={one.change}>
                {one.old !== null && <img src={thumbnailUrl(item.media, one.old)} alt={`Page ${one.old} before`} />}
                {one.now !== null && <img src={thumbnailUrl(found.info.hash, one.now)} alt={`Page ${one.now} now`} />}
                <span>
                  Page {one.now ?? one.old}: {CHANGES[one.change]}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </Modal>
  )
}

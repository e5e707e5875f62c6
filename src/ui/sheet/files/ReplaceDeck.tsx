'use client'

import { Alert, Button, Checkbox, Modal, Progress, Upload } from 'antd'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { ShelfItem } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { changedNotes, type ChangedNotes } from '@/core/lesson/replaceDeck'
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
  const [chosen, setChosen] = useState<Record<string, boolean>>({})
  const [state, setState] = useState<{ busy: boolean; error: string | null }>({ busy: false, error: null })
  const compare = async (file: File) => {
    setState({ busy: true, error: null })
    try {
      const info = await bringIn(file, course.id)
      if (info.kind !== 'deck') throw new Error(`These are no slides: ${file.name}. Choose a PDF, PPTX or ODP file.`)
      const { pages } = await runJob<'match'>({ kind: 'match', old: item.media, now: info.hash })
      setFound({ info, pages })
      setState({ busy: false, error: null })
    } catch (error) {
      setState({ busy: false, error: (error as Error).message })
    }
  }
  const old = store.getState().media.get(item.media)
  const { lesson } = store.getState().history
  const notes = found && old ? changedNotes(lesson.steps, old, found.info, found.pages) : []
  const taken = (one: ChangedNotes) => chosen[one.step] ?? one.isAsBefore
  const replace = () => {
    if (!found) return
    const { info, pages } = found
    store.getState().addMedia([info])
    const added = pages.flatMap(({ now, change }) =>
      change === 'new' && now !== null && !info.hidden.includes(now)
        ? [
            {
              page: now,
              id: nanoid(10),
              title: info.pages[now - 1] || `Page ${now}`,
              script: info.notes[now - 1] ?? '',
            },
          ]
        : [],
    )
    const now = { ...item, media: info.hash, source: info.name }
    const edits: Edit[] = [{ name: 'replaceDeck', old: item.media, now, pages, added }]
    for (const one of notes) if (taken(one)) edits.push({ name: 'setScript', step: one.step, script: one.now })
    if (store.getState().edit(...edits)) onClose()
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
        <Upload showUploadList={false} accept=".pdf,.pptx,.odp" beforeUpload={(file) => (void compare(file), false)}>
          <Button loading={state.busy}>Choose the new slides…</Button>
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
          {notes.length > 0 && (
            <>
              <h3>What is to be said has changed on {notes.length === 1 ? 'one page' : `${notes.length} pages`}</h3>
              <ul className={styles.notes}>
                {notes.map((one) => (
                  <li key={one.step}>
                    <Checkbox
                      checked={taken(one)}
                      onChange={({ target }) => setChosen((all) => ({ ...all, [one.step]: target.checked }))}
                    >
                      Page {one.page}: take the new words{one.isAsBefore ? '' : ' instead of your own'}
                    </Checkbox>
                    <p>{one.now}</p>
                  </li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
    </Modal>
  )
}

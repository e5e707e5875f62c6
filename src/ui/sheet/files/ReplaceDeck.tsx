'use client'

import { Alert, Button, Checkbox, Progress, Upload } from 'antd'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { ShelfItem } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { changedTexts, type ChangedText } from '@/core/lesson/replaceDeck'
import type { MediaInfo } from '@/core/messages/media'
import type { PageMatch } from '@/core/messages/job'
import { say } from '@/messages/say'
import { Dialog } from '../../parts/Dialog'
import { thumbnailUrl } from '../../api'
import { bringIn } from '../../arrival'
import { useDesk } from '../../lesson/context'
import { runJob } from '../../jobs'
import styles from '../panel.module.css'

const changes = ({ page }: { page: number }): Record<PageMatch['change'], string> => ({
  same: say('files.asBefore', { page }),
  changed: say('files.changedALittleKeeps', { page }),
  new: say('files.newBecomesAStep', { page }),
  gone: say('files.noLongerThereIts', { page }),
})

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
      if (info.kind !== 'deck') throw new Error(say('files.noSlides', { name: file.name }))
      const { pages } = await runJob<'match'>({ kind: 'match', old: item.media, now: info.hash })
      setFound({ info, pages })
      setState({ busy: false, error: null })
    } catch (error) {
      setState({ busy: false, error: (error as Error).message })
    }
  }
  const old = store.getState().media.get(item.media)
  const { lesson } = store.getState().history
  const texts = found && old ? changedTexts(lesson.steps, old, found.info, found.pages) : []
  const taken = (one: ChangedText) => chosen[keyOf(one)] ?? one.isAsBefore
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
              title: info.pages[now - 1] || say('files.page', { now }),
              script: info.notes[now - 1] ?? '',
            },
          ]
        : [],
    )
    const now = { ...item, media: info.hash, source: info.name }
    const edits: Edit[] = [{ name: 'replaceDeck', old: item.media, now, pages, added }]
    for (const one of texts) if (taken(one)) edits.push(editOf(one))
    if (store.getState().edit(...edits)) onClose()
  }
  const differs = found?.pages.filter(({ change }) => change !== 'same') ?? []
  return (
    <Dialog
      width={620}
      title={say('files.aNewVersionOf', { title: item.title })}
      okText={say('files.replaceTheSlides')}
      okButtonProps={{ disabled: !found }}
      onOk={replace}
      onCancel={onClose}
    >
      {state.error && <Alert type="error" title={state.error} />}
      {!found && (
        <Upload showUploadList={false} accept=".pdf,.pptx,.odp" beforeUpload={(file) => (void compare(file), false)}>
          <Button loading={state.busy}>{say('files.chooseTheNewSlides')}</Button>
        </Upload>
      )}
      {state.busy && <Progress percent={100} status="active" showInfo={false} size="small" />}
      {found && (
        <>
          <p>
            {say('files.ofPagesAreAs', { found: found.pages.length - differs.length, count: found.info.pages.length })}
          </p>
          <ul className={styles.pages}>
            {differs.map((one) => (
              <li key={`${one.old} ${one.now}`} data-change={one.change}>
                {one.old !== null && (
                  <img src={thumbnailUrl(item.media, one.old)} alt={say('files.pageBefore', { old: one.old })} />
                )}
                {one.now !== null && (
                  <img src={thumbnailUrl(found.info.hash, one.now)} alt={say('files.pageNow', { now: one.now })} />
                )}
                <span>{changes({ page: (one.now ?? one.old)! })[one.change]}</span>
              </li>
            ))}
          </ul>
          {(['title', 'script'] as const).map((what) => (
            <Changed
              key={what}
              what={what}
              texts={texts.filter((one) => one.what === what)}
              taken={taken}
              onTake={(one, isTaken) => setChosen((all) => ({ ...all, [keyOf(one)]: isTaken }))}
            />
          ))}
        </>
      )}
    </Dialog>
  )
}

const keyOf = ({ step, what }: ChangedText) => `${what} ${step}`

const editOf = ({ what, step, now }: ChangedText): Edit =>
  what === 'title' ? { name: 'renameStep', step, title: now } : { name: 'setScript', step, script: now }

const SAID = {
  title: { head: 'files.titlesChanged', take: 'files.takeNewTitle', instead: 'files.takeNewTitleInstead' },
  script: { head: 'files.notesChanged', take: 'files.takeNewWords', instead: 'files.takeNewWordsInstead' },
} as const

interface ChangedProps {
  what: ChangedText['what']
  texts: readonly ChangedText[]
  taken: (one: ChangedText) => boolean
  onTake: (one: ChangedText, isTaken: boolean) => void
}

/** What pages say otherwise than before, each to be taken or not. */
function Changed({ what, texts, taken, onTake }: ChangedProps) {
  if (texts.length === 0) return null
  const { head, take, instead } = SAID[what]
  return (
    <>
      <h3>{say(head, { count: texts.length })}</h3>
      <ul className={styles.notes}>
        {texts.map((one) => (
          <li key={one.step}>
            <Checkbox checked={taken(one)} onChange={({ target }) => onTake(one, target.checked)}>
              {say(one.isAsBefore ? take : instead, { page: one.page })}
            </Checkbox>
            <p>{one.now}</p>
          </li>
        ))}
      </ul>
    </>
  )
}

'use client'

import { Button, Dropdown, Form, Input } from 'antd'
import { useState } from 'react'
import type { ShelfItem } from '@/core/lesson/document'
import { sidesNote } from '@/core/measure/sides'
import { say } from '@/messages/say'
import { Dialog } from '../../parts/Dialog'
import { clock } from '../../format'
import { useDesk, useLesson, useLessonState } from '../../lesson/context'
import { BringIn } from '../../uploads/BringIn'
import { ReplaceDeck } from './ReplaceDeck'
import { useHearAsInFile } from '../../lesson/useHearAsInFile'
import { useShelfActions } from '../../lesson/useShelfActions'
import styles from '../panel.module.css'

const KINDS = {
  still: 'files.picture',
  deck: 'files.slides',
  recording: 'files.recording',
  sound: 'files.sound',
} as const

/** The lesson's files, what is known of them, and what can be done with them. */
export function ShelfPanel() {
  const { shelf } = useLesson()
  const media = useLessonState((state) => state.media)
  const [described, setDescribed] = useState<ShelfItem | null>(null)
  const [replaced, setReplaced] = useState<ShelfItem | null>(null)
  const actions = useShelfActions()
  const hearAsInFile = useHearAsInFile()
  return (
    <>
      <ul className={styles.list}>
        {shelf.map((item) => {
          const info = media.get(item.media)
          const facts = [
            say(KINDS[item.kind]),
            info?.length ? clock(info.length, false) : null,
            info && info.pages.length > 1 ? say('files.pages', { count: info.pages.length }) : null,
            item.licence || say('files.licenceNotNoted'),
          ]
          return (
            <li key={item.media}>
              <span title={info?.note ?? item.title}>
                {item.title}
                <small>{facts.filter(Boolean).join(' · ')}</small>
                {info?.sides && <small className={styles.sentence}>{sidesNote(info.sides)}</small>}
              </span>
              <Dropdown
                trigger={['click']}
                menu={{
                  items: [
                    ...actions(item),
                    ...(item.kind === 'deck'
                      ? [{ key: 'replace', label: say('files.replaceByANew'), onClick: () => setReplaced(item) }]
                      : []),
                    ...(info?.sides
                      ? [
                          {
                            key: 'sides',
                            label: say('files.hearBothSidesAs'),
                            onClick: () => void hearAsInFile(item.media),
                          },
                        ]
                      : []),
                    { key: 'describe', label: say('files.titleLicenceAndCredit'), onClick: () => setDescribed(item) },
                  ],
                }}
              >
                <Button size="small">{say('files.use')}</Button>
              </Dropdown>
            </li>
          )
        })}
      </ul>
      {shelf.length === 0 && <p className={styles.note}>{say('files.noFilesYetDrop')}</p>}
      <BringIn />
      {replaced && <ReplaceDeck item={replaced} onClose={() => setReplaced(null)} />}
      {described && <DescribeDialog item={described} onClose={() => setDescribed(null)} />}
    </>
  )
}

function DescribeDialog({ item, onClose }: { item: ShelfItem; onClose: () => void }) {
  const { store } = useDesk()
  const [form] = Form.useForm<Pick<ShelfItem, 'title' | 'source' | 'licence' | 'credit'>>()
  return (
    <Dialog
      title={say('files.aboutThisFile')}
      okText={say('files.keep')}
      onCancel={onClose}
      onOk={() => {
        if (store.getState().edit({ name: 'describeMedia', item: { ...item, ...form.getFieldsValue() } })) onClose()
      }}
    >
      <Form form={form} layout="vertical" initialValues={item}>
        <Form.Item name="title" label={say('files.title')}>
          <Input maxLength={200} />
        </Form.Item>
        <Form.Item name="source" label={say('files.whereItComesFrom')}>
          <Input maxLength={500} />
        </Form.Item>
        <Form.Item name="licence" label={say('files.licence')}>
          <Input maxLength={200} placeholder={say('files.forExampleCcBy')} />
        </Form.Item>
        <Form.Item name="credit" label={say('files.credit')}>
          <Input maxLength={500} />
        </Form.Item>
      </Form>
    </Dialog>
  )
}

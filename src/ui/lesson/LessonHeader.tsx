'use client'

import { RedoOutlined, UndoOutlined } from '@/ui/parts/icons'
import { Button, Dropdown, Input, Tooltip } from 'antd'
import Link from 'next/link'
import { usePathname } from 'next/navigation'
import { useState } from 'react'
import { say } from '@/messages/say'
import { timeOfDay } from '../format'
import { useKeys } from '../keys'
import { Brand } from '../parts/Brand'
import { PreferencesMenu } from '../parts/PreferencesMenu'
import { onDemand } from '../parts/onDemand'
import { useDesk, useFindings, useLesson, useLessonState, useSaveState } from './context'
import type { SaveState } from '../saving/autosave'
import { ACTIONS, type ActionId } from '../sheet/actions/actions'
import { keysOf, useKeyChoices } from '../sheet/actions/keyChoices'
import { Troubles } from './Troubles'
import { useVersionsShown } from './versionsShown'
import styles from './header.module.css'

const EarlierVersions = onDemand(() => import('./EarlierVersions').then((part) => part.EarlierVersions))

export function LessonHeader() {
  const { id, course } = useDesk()
  const versions = useVersionsShown()
  const path = usePathname()
  const serious = useFindings()?.filter(({ severity }) => severity !== 'hint').length ?? 0
  const menu = [
    { key: 'copy', label: <a href={`/api/lessons/${id}/archive`}>{say('lesson.saveACopy')}</a> },
    { key: 'versions', label: say('lesson.earlierVersionsMore'), onClick: versions.show },
  ]
  return (
    <header className={styles.header}>
      <a className="skip" href="#work">
        {say('lesson.toTheWork')}
      </a>
      <Brand />
      <nav className={styles.place} aria-label={say('lesson.courseAndLesson')}>
        <Link href="/">{course.title}</Link> <span aria-hidden="true">/</span> <LessonTitle />
      </nav>
      <Saved />
      <Troubles />
      <HistoryButtons />
      <Dropdown menu={{ items: menu }} trigger={['click']}>
        <Button type="text">{say('lesson.copyAndVersions')}</Button>
      </Dropdown>
      <PreferencesMenu />
      <nav className={styles.views} aria-label={say('lesson.views')}>
        <ViewLink href={`/lessons/${id}`} current={path}>
          {say('lesson.sheet')}
        </ViewLink>
        <ViewLink href={`/lessons/${id}/booth`} current={path}>
          {say('lesson.booth')}
        </ViewLink>
        <ViewLink href={`/lessons/${id}/balance`} current={path}>
          {say('lesson.balance')}
        </ViewLink>
        <ViewLink href={`/lessons/${id}/finish`} current={path}>
          {say('lesson.finish')}{' '}
          {serious > 0 && (
            <span className={styles.count} aria-label={say('lesson.findings', { count: serious })}>
              {serious}
            </span>
          )}
        </ViewLink>
      </nav>
      {versions.isShown && <EarlierVersions open onClose={versions.hide} />}
    </header>
  )
}

function ViewLink({ href, current, children }: { href: string; current: string; children: React.ReactNode }) {
  return (
    <Link href={href} className={styles.view} aria-current={href === current ? 'page' : undefined}>
      {children}
    </Link>
  )
}

function LessonTitle() {
  const { title } = useLesson()
  const { store } = useDesk()
  const [draft, setDraft] = useState<string | null>(null)
  if (draft === null) {
    return (
      <h1 className={styles.heading}>
        <button className={styles.title} onClick={() => setDraft(title)} title={say('lesson.renameTheLesson')}>
          {title}
        </button>
      </h1>
    )
  }
  const finish = (keep: boolean) => {
    if (keep && draft.trim() && draft.trim() !== title)
      store.getState().edit({ name: 'renameLesson', title: draft.trim() })
    setDraft(null)
  }
  return (
    <Input
      autoFocus
      size="small"
      className={styles.titleInput}
      aria-label={say('lesson.titleOfTheLesson')}
      value={draft}
      maxLength={200}
      onChange={(event) => setDraft(event.target.value)}
      onPressEnter={() => finish(true)}
      onBlur={() => finish(true)}
      onKeyDown={(event) => event.key === 'Escape' && finish(false)}
    />
  )
}

function HistoryButtons() {
  const { store } = useDesk()
  const past = useLessonState((state) => state.history.past.at(-1))
  const future = useLessonState((state) => state.history.future.at(-1))
  const { undo, redo } = store.getState()
  const chosen = useKeyChoices((state) => state.chosen)
  const keysFor = (id: ActionId, act: () => void) =>
    keysOf(
      ACTIONS.find((one) => one.id === id)!,
      chosen,
    ).map((chord) => [chord, act] as const)
  useKeys(Object.fromEntries([...keysFor('undo', undo), ...keysFor('redo', redo)]))
  return (
    <span className={styles.history}>
      <Tooltip title={past ? say('lesson.undo', { name: say(`editNames.${past.name}`) }) : say('lesson.nothingToUndo')}>
        <Button
          type="text"
          icon={<UndoOutlined />}
          aria-label={say('lesson.undoLabel')}
          disabled={!past}
          onClick={() => store.getState().undo()}
        />
      </Tooltip>
      <Tooltip
        title={
          future ? say('lesson.doAgain', { name: say(`editNames.${future.name}`) }) : say('lesson.nothingToDoAgain')
        }
      >
        <Button
          type="text"
          icon={<RedoOutlined />}
          aria-label={say('lesson.doAgainLabel')}
          disabled={!future}
          onClick={() => store.getState().redo()}
        />
      </Tooltip>
    </span>
  )
}

function Saved() {
  const save = useSaveState()
  const isSerious = save.state !== 'saved' && save.state !== 'saving' && save.state !== 'changed'
  return (
    <span
      className={styles.saved}
      data-save={save.state}
      title={save.state === 'offline' ? say('lesson.theServerDoesNot') : undefined}
    >
      {sayState(save)}
      {/* That all is well need not be read out at every edit. */}
      <span className="visually-hidden" role="status">
        {isSerious && sayState(save)}
      </span>
    </span>
  )
}

function sayState(save: SaveState): string {
  switch (save.state) {
    case 'saved':
      return say('lesson.saved')
    case 'conflict':
      return say('lesson.notSavedChangedElsewhere')
    case 'offline': {
      const since = timeOfDay(save.since)
      return save.isKept ? say('lesson.notSavedYetBut', { since }) : say('lesson.notSavedYetSince', { since })
    }
    case 'refused':
      return say('lesson.notSaved', { reason: save.reason })
    default:
      return say('lesson.saving')
  }
}

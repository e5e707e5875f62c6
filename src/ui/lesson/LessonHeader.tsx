'use client'

import { RedoOutlined, UndoOutlined } from '@ant-design/icons'
import { Button, Dropdown, Input, Tooltip } from 'antd'
import Link from 'next/link'
import { usePathname } from 'next/navigation'
import { useState } from 'react'
import type { Edit } from '@/core/lesson/edits'
import { useKeys } from '../keys'
import { Brand } from '../parts/Brand'
import { PreferencesMenu } from '../parts/PreferencesMenu'
import { onDemand } from '../parts/onDemand'
import { useDesk, useFindings, useLesson, useLessonState, useSaveState } from './context'
import type { SaveState } from './autosave'
import { ACTIONS, type ActionId } from '../sheet/actions/actions'
import { keysOf, useKeyChoices } from '../sheet/actions/keyChoices'
import { Troubles } from './Troubles'
import styles from './header.module.css'

const EarlierVersions = onDemand(() => import('./EarlierVersions').then((part) => part.EarlierVersions))

export function LessonHeader() {
  const { id, course } = useDesk()
  const [versions, setVersions] = useState(false)
  const path = usePathname()
  const serious = useFindings()?.filter(({ severity }) => severity !== 'hint').length ?? 0
  const menu = [
    { key: 'copy', label: <a href={`/api/lessons/${id}/archive`}>Save a copy…</a> },
    { key: 'versions', label: 'Earlier versions…', onClick: () => setVersions(true) },
  ]
  return (
    <header className={styles.header}>
      <a className="skip" href="#work">
        To the work
      </a>
      <Brand />
      <nav className={styles.place} aria-label="Course and lesson">
        <Link href="/">{course.title}</Link> <span aria-hidden="true">/</span> <LessonTitle />
      </nav>
      <Saved />
      <Troubles />
      <HistoryButtons />
      <Dropdown menu={{ items: menu }} trigger={['click']}>
        <Button type="text">Copy and versions</Button>
      </Dropdown>
      <PreferencesMenu />
      <nav className={styles.views} aria-label="Views">
        <ViewLink href={`/lessons/${id}`} current={path}>
          Sheet
        </ViewLink>
        <ViewLink href={`/lessons/${id}/booth`} current={path}>
          Booth
        </ViewLink>
        <ViewLink href={`/lessons/${id}/balance`} current={path}>
          Balance
        </ViewLink>
        <ViewLink href={`/lessons/${id}/finish`} current={path}>
          Finish{' '}
          {serious > 0 && (
            <span className={styles.count} aria-label={`${serious} findings`}>
              {serious}
            </span>
          )}
        </ViewLink>
      </nav>
      {versions && <EarlierVersions open onClose={() => setVersions(false)} />}
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
        <button className={styles.title} onClick={() => setDraft(title)} title="Rename the lesson">
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
      aria-label="Title of the lesson"
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
      <Tooltip title={past ? `Undo: ${NAMES[past.name]}` : 'Nothing to undo'}>
        <Button
          type="text"
          icon={<UndoOutlined />}
          aria-label="Undo"
          disabled={!past}
          onClick={() => store.getState().undo()}
        />
      </Tooltip>
      <Tooltip title={future ? `Do again: ${NAMES[future.name]}` : 'Nothing to do again'}>
        <Button
          type="text"
          icon={<RedoOutlined />}
          aria-label="Do again"
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
      title={
        save.state === 'offline' ? 'The server does not answer. It is asked again and again; go on working.' : undefined
      }
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
      return 'Saved'
    case 'conflict':
      return 'Not saved: changed elsewhere'
    case 'offline': {
      const since = new Date(save.since).toLocaleTimeString('en-GB', { timeStyle: 'short' })
      return save.isKept
        ? `Not saved yet, but kept in this browser since ${since}`
        : `Not saved yet since ${since}: keep this window open`
    }
    case 'refused':
      return `Not saved: ${save.reason}`
    default:
      return 'Saving…'
  }
}

/** What an edit is called where it can be undone. */
const NAMES: Record<Edit['name'], string> = {
  renameLesson: 'rename the lesson',
  correctCaptions: 'correct a caption',
  addSteps: 'add steps',
  moveSteps: 'move steps',
  duplicateSteps: 'duplicate steps',
  deleteSteps: 'delete steps',
  renameStep: 'rename the step',
  setPicture: 'change the picture',
  setScript: 'change the script',
  setLength: 'change the length',
  setLeadIn: 'change the lead-in',
  setTail: 'change the tail',
  placePassage: 'place narration',
  trimPassage: 'trim narration',
  removePassage: 'remove narration',
  breakStep: 'break here',
  joinStep: 'join with the step before',
  addLayers: 'put over the picture',
  setLayer: 'change what is over the picture',
  removeLayer: 'take off the picture',
  moveLayer: 'change what lies above',
  setEdges: 'change how it gives way',
  setLessonEdge: 'change how pictures give way',
  setEnds: 'change the opening and the closing',
  setLook: 'change the look',
  setFrame: 'change the shape of the video',
  setLessonFraming: 'change how pictures stand in the frame',
  setChapter: 'change a chapter',
  addBed: 'add music',
  moveBed: 'move music',
  removeBed: 'remove music',
  setTarget: 'change the balance',
  putOnShelf: 'put on the shelf',
  describeMedia: 'describe a file',
  swapMedia: 'change how a file is heard',
  takeOffShelf: 'take off the shelf',
  addTakes: 'add a take',
  chooseParts: 'choose parts of takes',
  renameTake: 'rename the take',
  removeTake: 'remove the take',
  restoreTake: 'bring back the take',
  setCleanUp: 'change the clean-up',
  setReading: 'change the reading voice',
  setLanguage: 'change the language',
  shortenPauses: 'shorten pauses',
  insertPause: 'put in a pause',
  setPause: 'change a pause',
  replaceVoice: 'replace the voice',
  restore: 'bring back an earlier version',
  pasteSteps: 'paste steps',
  splitRecording: 'make a step of each scene',
  setLengthOf: 'change the lengths',
  replaceDeck: 'replace the slides',
  cutWords: 'cut words',
  pasteWords: 'put words in',
  retimeWord: 'move a word',
  placeMarks: 'hang it anew',
  showHidden: 'show a hidden part',
  acceptScript: 'keep the script',
  addSounds: 'add a sound',
  setSound: 'change a sound',
  removeSounds: 'take a sound out',
  setBed: 'change the music',
  setNudges: 'nudge the music',
  removeNudges: 'take points out',
  setPocket: 'change the pocket',
  setTrack: 'change a track',
  setLengths: 'change the lengths',
  addPicture: 'add a picture',
  changePicture: 'change a picture',
  removePicture: 'take a picture out',
}

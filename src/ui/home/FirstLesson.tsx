'use client'

import { CloseOutlined } from '@ant-design/icons'
import { useQuery } from '@tanstack/react-query'
import { App, Button, Input, Progress, Select } from 'antd'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import { byName, scriptToFind } from '@/core/lesson/firstLesson'
import type { CourseListing } from '@/core/course/listing'
import { titleFromName, type MediaInfo } from '@/core/messages/media'
import type { SpeechVoice } from '@/core/narration/speechVoice'
import { call } from '../api'
import { nearestLanguage } from '@/core/narration/words/language'
import { browserLanguage } from '../language'
import { clock } from '../format'
import { runJob } from '../jobs'
import type { Arrival } from '../uploads/upload'
import { isDone, sayState, shareOf } from '../uploads/arrivals'
import { useArrivals } from '../uploads/useArrivals'
import styles from './home.module.css'

type Role = 'voice' | 'music' | 'leave'

const ROLES: { value: Role; label: string }[] = [
  { value: 'voice', label: 'narration' },
  { value: 'music', label: 'music' },
  { value: 'leave', label: 'leave it out' },
]

interface FirstLessonProps {
  files: File[]
  courses: CourseListing[]
  onCancel: () => void
}

/** Shows the dropped files on their way, says what each is taken for, and makes the lesson. */
export function FirstLesson({ files, courses, onCancel }: FirstLessonProps) {
  const { message } = App.useApp()
  const router = useRouter()
  const { arrivals, add, drop } = useArrivals()
  const sent = useRef(0)
  const [script, setScript] = useState<{ name: string; words: string } | null>(null)
  const [finding, setFinding] = useState<number | null>(null)
  useEffect(() => {
    const fresh = files.slice(sent.current)
    sent.current = files.length
    const text = fresh.find(isScript)
    void text?.text().then((words) => setScript({ name: text.name, words }))
    const media = fresh.filter((file) => !isScript(file))
    if (media.length > 0) add(media)
  }, [files, add])

  const [titled, setTitle] = useState<string | null>(null)
  const [making, setMaking] = useState(false)
  const [language, languages, setLanguage] = useLanguage()
  const [course, setCourse] = useState(courses[0]?.id ?? null)
  const [chosen, setChosen] = useState<Record<string, Role>>({})
  const media = arrivals.flatMap(({ status }) => status?.result?.media ?? [])
  const sounds = [...new Set(media.filter(({ kind }) => kind === 'sound').map(({ hash }) => hash))].sort()
  const { data: guess } = useQuery({
    queryKey: ['roles', sounds],
    queryFn: () => runJob<'roles'>({ kind: 'roles', sounds }),
    enabled: sounds.length > 0,
  })
  const roleOf = ({ hash }: MediaInfo): Role => chosen[hash] ?? (guess?.voice.includes(hash) ? 'voice' : 'music')
  const pictures = media.filter(({ kind }) => kind !== 'sound').sort(byName)
  const byRole = (role: Role) => media.filter((one) => one.kind === 'sound' && roleOf(one) === role).sort(byName)
  const title = titled ?? titleFromName((pictures[0] ?? media[0])?.name ?? files[0]?.name ?? 'New lesson')

  const failed = arrivals.filter(({ error }) => error)
  const ready =
    arrivals.length > 0 &&
    arrivals.every((one) => isDone(one) || one.error) &&
    media.length > 0 &&
    (sounds.length === 0 || guess)

  async function make() {
    setMaking(true)
    try {
      const hashes = (infos: MediaInfo[]) => infos.map(({ hash }) => hash)
      const body = {
        course,
        title,
        pictures: hashes(pictures),
        voices: hashes(byRole('voice')),
        music: hashes(byRole('music')),
        script: script?.words,
        language,
        found: await findWords(byRole('voice')),
      }
      router.push(`/lessons/${(await call<{ id: string }>('/api/lessons', { body })).id}`)
    } catch (error) {
      setFinding(null)
      setMaking(false)
      void message.error((error as Error).message)
    }
  }

  /** Where the script is said in the one long reading; several recordings are laid a step each. */
  async function findWords(voices: readonly MediaInfo[]) {
    const [reading] = voices
    const words = scriptToFind({ title, pictures, script: script?.words })
    if (!reading || voices.length > 1 || words.trim() === '') return undefined
    setFinding(0)
    const { hash, length } = reading
    return runJob<'align'>({ kind: 'align', media: hash, from: 0, to: length!, script: words, language }, setFinding)
  }

  return (
    <section className={styles.first} aria-label="New lesson from these files">
      <div className={styles.firstHead}>
        <Input
          aria-label="Title of the lesson"
          value={title}
          maxLength={200}
          onChange={(event) => setTitle(event.target.value)}
        />
        {courses.length > 0 && (
          <Select
            aria-label="Course"
            value={course}
            options={courses.map(({ id, title: label }) => ({ value: id, label }))}
            onChange={setCourse}
            style={{ minWidth: 200 }}
          />
        )}
        <Select
          showSearch={{ optionFilterProp: 'label' }}
          aria-label="Language that is spoken"
          prefix="spoken:"
          value={language}
          options={languages}
          onChange={setLanguage}
          style={{ minWidth: 230 }}
        />
      </div>
      <ul className={styles.files}>
        {script && (
          <li data-file={script.name}>
            <b>{script.name}</b>
            <span className={styles.what}>script, {countWords(script.words)} words</span>
            <span className={styles.fixedRole}>script</span>
            <Button
              size="small"
              type="text"
              icon={<CloseOutlined />}
              aria-label={`Take ${script.name} out`}
              onClick={() => setScript(null)}
            />
          </li>
        )}
        {arrivals.map((arrival) => (
          <FileLine
            key={arrival.key}
            arrival={arrival}
            role={arrival.status?.result?.media ? roleOf(arrival.status.result.media) : null}
            onRole={(role) => setChosen((all) => ({ ...all, [arrival.status!.result!.media!.hash]: role }))}
            onDrop={() => drop(arrival.key)}
          />
        ))}
      </ul>
      <div className={styles.firstFoot}>
        <span className={styles.note}>
          {finding !== null ? (
            <>
              Finding the words of the script in the narration…{' '}
              <Progress percent={Math.round(finding * 100)} size="small" style={{ width: 200 }} />
            </>
          ) : failed.length > 0 && ready ? (
            'What could not be used is left out.'
          ) : (
            'Narration and music are told apart by measurement; change it where it is wrong.'
          )}
        </span>
        <span className={styles.gap} />
        <Button onClick={onCancel}>Cancel</Button>
        <Button type="primary" size="large" disabled={!ready} loading={making} onClick={() => void make()}>
          Make the lesson
        </Button>
      </div>
    </section>
  )
}

interface FileLineProps {
  arrival: Arrival
  role: Role | null
  onRole: (role: Role) => void
  onDrop: () => void
}

function FileLine({ arrival, role, onRole, onDrop }: FileLineProps) {
  const media = arrival.status?.result?.media
  return (
    <li data-failed={arrival.error ? 'yes' : undefined} data-file={arrival.name}>
      <b>{arrival.name}</b>
      <span className={styles.what} role={arrival.error ? 'alert' : undefined}>
        {media ? sayMedia(media) : sayState(arrival)}
        {!media && !arrival.error && (
          <Progress percent={Math.round(shareOf(arrival) * 100)} showInfo={false} size="small" />
        )}
      </span>
      {media?.kind === 'sound' && role ? (
        <Select
          size="small"
          aria-label={`What ${arrival.name} is`}
          value={role}
          options={ROLES}
          onChange={onRole}
          style={{ width: 130 }}
        />
      ) : (
        <span className={styles.fixedRole}>{media ? 'picture' : ''}</span>
      )}
      <Button
        size="small"
        type="text"
        icon={<CloseOutlined />}
        aria-label={`Take ${arrival.name} out`}
        onClick={onDrop}
      />
    </li>
  )
}

/** The language that is spoken: guessed from the browser, and asked. */
function useLanguage() {
  const [chosen, setChosen] = useState<string | null>(null)
  const { data: voices = [] } = useQuery({ queryKey: ['voices'], queryFn: () => call<SpeechVoice[]>('/api/voices') })
  const tags = [...new Set(voices.map(({ language }) => language))]
  const names = new Intl.DisplayNames('en', { type: 'language', fallback: 'code' })
  const options = tags
    .map((value) => ({ value, label: nameOf(names, value) }))
    .sort((a, b) => a.label.localeCompare(b.label))
  return [chosen ?? nearestLanguage(browserLanguage(), tags), options, setChosen] as const
}

function nameOf(names: Intl.DisplayNames, tag: string): string {
  try {
    return names.of(tag) ?? tag
  } catch {
    return tag
  }
}

const isScript = ({ name }: File) => /\.(txt|md)$/i.test(name)

const countWords = (text: string) => text.split(/\s+/).filter(Boolean).length

function sayMedia({ kind, pages, length, note }: MediaInfo): string {
  if (note) return note
  if (kind === 'deck') return `${pages.length} slides`
  if (kind === 'still') return 'one slide'
  return `${kind === 'recording' ? 'recording' : 'sound'}, ${clock(length ?? 0, false)}`
}

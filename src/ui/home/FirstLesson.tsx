'use client'

import { CloseOutlined } from '@/ui/parts/icons'
import { useQuery } from '@tanstack/react-query'
import { App, Button, Input, Progress, Select } from 'antd'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import { readCaptions } from '@/core/formats/readCaptions'
import { scriptsToRead, writtenWords } from '@/core/lesson/firstLesson'
import { byName } from '@/core/lesson/fromFile'
import { usualLanguage, type CourseListing } from '@/core/course/listing'
import { titleFromName, type MediaInfo } from '@/core/messages/media'
import { say } from '@/messages/say'
import { runJob } from '../jobs'
import { isDone } from '../uploads/arrivals'
import { isCaptionFile } from '../uploads/captionFile'
import { useArrivals } from '../uploads/useArrivals'
import { FileLine, type Role } from './FileLine'
import { askWhetherToLay } from '../parts/askWhetherToLay'
import { makeFirstLesson } from './makeFirstLesson'
import { Offers, type Offered } from './Offers'
import { useSpokenLanguage } from './useSpokenLanguage'
import styles from './home.module.css'

interface FirstLessonProps {
  files: File[]
  courses: CourseListing[]
  onCancel: () => void
}

/** Shows the dropped files on their way, says what each is taken for, and makes the lesson. */
export function FirstLesson({ files, courses, onCancel }: FirstLessonProps) {
  const { message, modal } = App.useApp()
  const router = useRouter()
  const { arrivals, script, setScript, drop } = useDropped(files)
  const media = arrivals.flatMap(({ status }) => status?.result?.media ?? [])
  const { roleOf, setRole, isTold, fault } = useRoles(media)
  const [titled, setTitle] = useState<string | null>(null)
  const [stage, setStage] = useState<{ what: string; share: number } | null>(null)
  const [offered, setOffered] = useState<Offered>({ hasStandIns: true, piece: null, withHidden: false })
  const [course, setCourse] = useState(courses[0]?.id ?? null)
  const into = courses.find(({ id }) => id === course)

  const pictures = media.filter(({ kind }) => kind !== 'sound').sort(byName)
  const byRole = (role: Role) => media.filter((one) => one.kind === 'sound' && roleOf(one) === role).sort(byName)
  const title = titled ?? titleFromName((pictures[0] ?? media[0])?.name ?? files[0]?.name ?? say('home.newLesson'))
  const [voices, music] = [byRole('voice'), byRole('music')]
  const told = { title, pictures, script: script?.words, withHidden: offered.withHidden }
  const {
    language,
    options: languages,
    setLanguage,
    voice,
  } = useSpokenLanguage(into ? usualLanguage(into) : null, writtenWords(told))
  const isSilent = voices.length === 0 && media.length > 0
  const silent = isSilent ? scriptsToRead(told).length : 0

  const failed = arrivals.filter(({ error }) => error)
  const asked = media.filter((one) => one.kind === 'sound' && isTold && roleOf(one) === null)
  const ready =
    arrivals.length > 0 &&
    arrivals.every((one) => isDone(one) || one.error) &&
    media.length > 0 &&
    isTold &&
    asked.length === 0

  /** Nobody wants them any more: what is on its way is broken off. */
  function cancel() {
    for (const { key } of arrivals) drop(key)
    onCancel()
  }

  async function make() {
    setStage({ what: '', share: 0 })
    const hasStandIns = isSilent && offered.hasStandIns
    const piece = music.length > 0 ? null : offered.piece
    try {
      const wishes = { ...told, course, voices, music, language, hasStandIns, voice, piece }
      const ask = (doubt: string) => askWhetherToLay(modal, doubt)
      const id = await makeFirstLesson(wishes, (what, share) => setStage({ what, share }), ask)
      if (id) router.push(`/lessons/${id}`)
      else setStage(null)
    } catch (error) {
      setStage(null)
      void message.error((error as Error).message)
    }
  }

  return (
    <section className={styles.first} aria-label={say('home.newLessonFromThese')}>
      <div className={styles.firstHead}>
        <Input
          aria-label={say('home.titleOfTheLesson')}
          value={title}
          maxLength={200}
          onChange={(event) => setTitle(event.target.value)}
        />
        {courses.length > 0 && (
          <Select
            aria-label={say('home.course')}
            value={course}
            options={courses.map(({ id, title: label }) => ({ value: id, label }))}
            onChange={setCourse}
            style={{ minWidth: 200 }}
          />
        )}
        <Select
          showSearch={{ optionFilterProp: 'label' }}
          aria-label={say('home.languageThatIsSpoken')}
          prefix={say('home.spokenIn')}
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
            <span className={styles.what}>{say('home.scriptWords', { words: countWords(script.words) })}</span>
            <span className={styles.fixedRole}>{say('home.script')}</span>
            <Button
              size="small"
              type="text"
              icon={<CloseOutlined />}
              aria-label={say('home.takeOut', { name: script.name })}
              onClick={() => setScript(null)}
            />
          </li>
        )}
        {arrivals.map((arrival) => (
          <FileLine
            key={arrival.key}
            arrival={arrival}
            role={arrival.status?.result?.media && isTold ? roleOf(arrival.status.result.media) : undefined}
            onRole={(role) => setRole(arrival.status!.result!.media!, role)}
            onDrop={() => drop(arrival.key)}
          />
        ))}
      </ul>
      {ready && (
        <Offers
          offered={offered}
          onChange={(part) => setOffered((all) => ({ ...all, ...part }))}
          silent={silent}
          hasMusic={music.length > 0}
          hidden={pictures.reduce((sum, { hidden }) => sum + hidden.length, 0)}
        />
      )}
      <div className={styles.firstFoot}>
        <span className={styles.note}>
          {stage?.what ? (
            <>
              {stage.what}… <Progress percent={Math.round(stage.share * 100)} size="small" style={{ width: 200 }} />
            </>
          ) : asked.length > 0 ? (
            [say('home.isNarrationOrMusic', { name: asked[0]!.name }), fault].filter(Boolean).join(' ')
          ) : failed.length > 0 && ready ? (
            say('home.whatCouldNotBe')
          ) : media.some(({ kind }) => kind === 'sound') ? (
            say('home.narrationAndMusicAre')
          ) : null}
        </span>
        <span className={styles.gap} />
        <Button onClick={cancel}>{say('home.cancel')}</Button>
        <Button type="primary" size="large" disabled={!ready} loading={stage !== null} onClick={() => void make()}>
          {say('home.makeTheLesson')}
        </Button>
      </div>
    </section>
  )
}

/** What was dropped: a text or captions are the script, everything else is on its way to the server. */
function useDropped(files: readonly File[]) {
  const { arrivals, add, drop } = useArrivals()
  const { message } = App.useApp()
  const sent = useRef(0)
  const [script, setScript] = useState<{ name: string; words: string } | null>(null)
  useEffect(() => {
    const fresh = files.slice(sent.current)
    sent.current = files.length
    const text = fresh.find(isScript)
    if (text)
      void wordsOf(text).then(
        (words) => setScript({ name: text.name, words }),
        (error: Error) => void message.error(`${text.name}: ${error.message}`, 8),
      )
    const media = fresh.filter((file) => !isScript(file))
    if (media.length > 0) add(media)
  }, [files, add, message])
  return { arrivals, script, setScript, drop }
}

/** What each sound is taken for: by measurement, until somebody says otherwise. */
function useRoles(media: readonly MediaInfo[]) {
  const [chosen, setChosen] = useState<Record<string, Role>>({})
  const sounds = [...new Set(media.filter(({ kind }) => kind === 'sound').map(({ hash }) => hash))].sort()
  const { data: guess, error } = useQuery({
    queryKey: ['roles', sounds],
    queryFn: () => runJob<'roles'>({ kind: 'roles', sounds }),
    enabled: sounds.length > 0,
    // Only what can't be measured for a quarter of a minute is asked: a list must not go away while somebody chooses.
    retry: 4,
  })
  return {
    /** Null where the author has to say it. */
    roleOf: ({ hash }: MediaInfo): Role | null =>
      chosen[hash] ?? (!guess || guess.unsure.includes(hash) ? null : guess.voice.includes(hash) ? 'voice' : 'music'),
    setRole: ({ hash }: MediaInfo, role: Role) => setChosen((all) => ({ ...all, [hash]: role })),
    // Where it can't be measured the author is asked, too.
    isTold: sounds.length === 0 || guess !== undefined || error !== null,
    /** Why it could not be measured. */
    fault: error?.message,
  }
}

const isScript = (file: File) => /\.(txt|md)$/i.test(file.name) || isCaptionFile(file)

/** Of captions only what they say: when that is said is found in the narration. */
async function wordsOf(file: File): Promise<string> {
  const text = await file.text()
  if (!isCaptionFile(file)) return text
  return readCaptions(text)
    .map((caption) => caption.text)
    .join(' ')
}

const countWords = (text: string) => text.split(/\s+/).filter(Boolean).length

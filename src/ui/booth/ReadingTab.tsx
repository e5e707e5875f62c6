'use client'

import { DeleteOutlined } from '@ant-design/icons'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Input, Select } from 'antd'
import { useMemo, useState } from 'react'
import { isSilent, isStandIn } from '@/core/lesson/takes'
import { oddWords, type Pronunciation, type ReadingSettings, type SpeechVoice } from '@/core/narration/speechVoice'
import { call } from '../api'
import { spokenLanguages } from '../language'
import { useDesk, useLesson } from '../lesson/context'
import { readScripts } from './takeActions'
import { NumberField } from '../parts/NumberField'
import styles from './booth.module.css'

/** More of them than anybody reads through. */
const MOST_ODD = 40

/** The synthesised voice, what it is told about words, and the steps it stands in for. */
export function ReadingTab() {
  const desk = useDesk()
  const { message } = App.useApp()
  const lesson = useLesson()
  const [busy, setBusy] = useState(false)
  const { data: voices = [] } = useQuery({ queryKey: ['voices'], queryFn: () => call<SpeechVoice[]>('/api/voices') })
  const { reading } = lesson
  const change = (part: Partial<ReadingSettings>) =>
    desk.store.getState().edit({ name: 'setReading', reading: { ...reading, ...part } })
  const licence = voices.find(({ id }) => id === reading.voice)?.licence
  const silent = lesson.steps.filter(isSilent)
  const standIns = lesson.steps.filter((step) => isStandIn(lesson, step))
  const read = async (steps: typeof silent) => {
    setBusy(true)
    await readScripts(desk, steps).catch((error: Error) => message.error(error.message))
    setBusy(false)
  }
  return (
    <div className={styles.cleanUp}>
      <div className={styles.fields}>
        <span>Voice</span>
        <Select
          showSearch={{ optionFilterProp: 'label' }}
          aria-label="Reading voice"
          value={reading.voice}
          options={voices.map(({ id, name, language }) => ({
            value: id,
            label: `${name} (${language}, ${id.split(':')[0]})`,
          }))}
          onChange={(voice) => change({ voice })}
        />
        <span>Language</span>
        <Select
          showSearch={{ optionFilterProp: 'label' }}
          aria-label="Language of the script"
          value={lesson.language}
          options={spokenLanguages(voices)}
          onChange={(language) => desk.store.getState().edit({ name: 'setLanguage', language })}
        />
        <span>Words a minute</span>
        <NumberField min={80} max={300} step={5} value={reading.rate} onChange={(rate) => rate && change({ rate })} />
        <span>Pitch</span>
        <NumberField
          min={0}
          max={100}
          step={5}
          value={reading.pitch}
          onChange={(pitch) => pitch !== null && change({ pitch })}
        />
        <span>Between sentences</span>
        <NumberField
          min={0}
          max={5}
          step={0.1}
          suffix="s"
          value={reading.pause}
          onChange={(pause) => pause !== null && change({ pause })}
        />
      </div>
      {licence && <p className={styles.hint}>Licence of this voice: {licence}</p>}
      <p className={styles.hint}>
        In the script, <code>*word*</code> is stressed and <code>[pause 1.5]</code> is silence.
      </p>
      <p data-testid="stand-ins">
        <b>{standIns.length}</b> {standIns.length === 1 ? 'step has' : 'steps have'} a stand-in, <b>{silent.length}</b>{' '}
        {silent.length === 1 ? 'has' : 'have'} a script and no voice.
      </p>
      <div className={styles.actions}>
        <Button type="primary" loading={busy} disabled={silent.length === 0} onClick={() => void read(silent)}>
          Read all silent steps
        </Button>
        <Button loading={busy} disabled={standIns.length === 0} onClick={() => void read(standIns)}>
          Read the stand-ins anew
        </Button>
      </div>
      <Pronunciations language={voices.find(({ id }) => id === reading.voice)?.language ?? lesson.language} />
    </div>
  )
}

/** Words of the whole course that the voice would say wrongly, and those it says otherwise than they are written. */
function Pronunciations({ language }: { language: string }) {
  const { course } = useDesk()
  const { steps } = useLesson()
  const client = useQueryClient()
  const { message } = App.useApp()
  const key = ['pronunciations', course.id]
  const path = `/api/courses/${course.id}/pronunciations`
  const { data: list = [] } = useQuery({ queryKey: key, queryFn: () => call<Pronunciation[]>(path) })
  const [word, setWord] = useState('')
  const [saidAs, setSaidAs] = useState('')
  const odd = useMemo(
    () =>
      oddWords(
        steps.map(({ script }) => script),
        list,
        language,
      ).slice(0, MOST_ODD),
    [steps, list, language],
  )
  const save = async (next: Pronunciation[]) =>
    client.setQueryData(key, await call(path, { method: 'PUT', body: next }))
  const forget = async (one: Pronunciation) => {
    await save(list.filter((other) => other.word !== one.word))
    const undo = () => {
      message.destroy(one.word)
      void save([...(client.getQueryData<Pronunciation[]>(key) ?? []), one])
    }
    void message.info({
      key: one.word,
      content: (
        <>
          “{one.word}” is forgotten.{' '}
          <Button size="small" type="link" onClick={undo}>
            Undo
          </Button>
        </>
      ),
      duration: 10,
    })
  }
  const add = () => {
    if (!word.trim() || !saidAs.trim()) return
    void save([...list.filter((one) => one.word !== word.trim()), { word: word.trim(), saidAs: saidAs.trim() }])
    setWord('')
    setSaidAs('')
  }
  return (
    <>
      <h3>How words are said, in all lessons of this course</h3>
      {list.map((one) => (
        <p key={one.word} className={styles.pronunciation}>
          <b>{one.word}</b> is said “{one.saidAs}”
          <Button
            size="small"
            type="text"
            icon={<DeleteOutlined />}
            aria-label={`Forget ${one.word}`}
            onClick={() => void forget(one)}
          />
        </p>
      ))}
      {odd.map((one) => (
        <p key={`${one.word} ${one.saidAs}`} className={styles.pronunciation}>
          <b>{one.word}</b> is read “{one.saidAs}”
          <Button
            size="small"
            type="link"
            aria-label={`Say ${one.word} otherwise`}
            onClick={() => {
              setWord(one.word)
              setSaidAs(one.saidAs)
            }}
          >
            say it otherwise
          </Button>
        </p>
      ))}
      <div className={styles.pronunciation}>
        <Input
          size="small"
          placeholder="Skerrow"
          aria-label="Word"
          value={word}
          onChange={(event) => setWord(event.target.value)}
        />
        is said
        <Input
          size="small"
          placeholder="skerroe"
          aria-label="Said as"
          value={saidAs}
          onChange={(event) => setSaidAs(event.target.value)}
          onPressEnter={add}
        />
        <Button size="small" onClick={add}>
          Add
        </Button>
      </div>
    </>
  )
}

'use client'

import { DeleteOutlined } from '@/ui/parts/icons'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Input, Select } from 'antd'
import { useMemo, useState } from 'react'
import { isSilent, isStandIn } from '@/core/lesson/takes'
import {
  oddWords,
  type Pronunciation,
  type PronunciationsChange,
  type ReadingSettings,
  type SpeechVoice,
} from '@/core/narration/speechVoice'
import { say } from '@/messages/say'
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
        <span>{say('booth.voice')}</span>
        <Select
          showSearch={{ optionFilterProp: 'label' }}
          aria-label={say('booth.readingVoice')}
          value={reading.voice}
          options={voices.map(({ id, name, language }) => ({
            value: id,
            label: `${name} (${language}, ${id.split(':')[0]})`,
          }))}
          onChange={(voice) => change({ voice })}
        />
        <span>{say('booth.language')}</span>
        <Select
          showSearch={{ optionFilterProp: 'label' }}
          aria-label={say('booth.languageOfTheScript')}
          value={lesson.language}
          options={spokenLanguages(voices)}
          onChange={(language) => desk.store.getState().edit({ name: 'setLanguage', language })}
        />
        <span>{say('booth.wordsAMinute')}</span>
        <NumberField min={80} max={300} step={5} value={reading.rate} onChange={(rate) => rate && change({ rate })} />
        <span>{say('booth.pitch')}</span>
        <NumberField
          min={0}
          max={100}
          step={5}
          value={reading.pitch}
          onChange={(pitch) => pitch !== null && change({ pitch })}
        />
        <span>{say('booth.betweenSentences')}</span>
        <NumberField
          min={0}
          max={5}
          step={0.1}
          suffix="s"
          value={reading.pause}
          onChange={(pause) => pause !== null && change({ pause })}
        />
      </div>
      {licence && <p className={styles.hint}>{say('booth.licenceOfThisVoice', { licence })}</p>}
      <p className={styles.hint}>
        {say.rich('booth.markUp', {
          stressed: (text) => <code>{text}</code>,
          silence: (text) => <code>{text}</code>,
        })}
      </p>
      <p data-testid="stand-ins">
        {say.rich('booth.standIns', {
          standIns: standIns.length,
          silent: silent.length,
          b: (count) => <b>{count}</b>,
        })}
      </p>
      <div className={styles.actions}>
        <Button type="primary" loading={busy} disabled={silent.length === 0} onClick={() => void read(silent)}>
          {say('booth.readAllSilentSteps')}
        </Button>
        <Button loading={busy} disabled={standIns.length === 0} onClick={() => void read(standIns)}>
          {say('booth.readTheStandIns')}
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
  const change = async (body: PronunciationsChange) =>
    client.setQueryData(key, await call(path, { method: 'PATCH', body }))
  const forget = async (one: Pronunciation) => {
    await change({ said: [], forgotten: [one.word] })
    const undo = () => {
      message.destroy(one.word)
      void change({ said: [one], forgotten: [] })
    }
    void message.info({
      key: one.word,
      content: (
        <>
          {say('booth.isForgotten', { word: one.word })}{' '}
          <Button size="small" type="link" onClick={undo}>
            {say('booth.undo')}
          </Button>
        </>
      ),
      duration: 10,
    })
  }
  const add = () => {
    if (!word.trim() || !saidAs.trim()) return
    void change({ said: [{ word: word.trim(), saidAs: saidAs.trim() }], forgotten: [] })
    setWord('')
    setSaidAs('')
  }
  return (
    <>
      <h3>{say('booth.howWordsAreSaid')}</h3>
      {list.map((one) => (
        <p key={one.word} className={styles.pronunciation}>
          {say.rich('booth.isSaid', { word: one.word, saidAs: one.saidAs, b: (word) => <b>{word}</b> })}
          <Button
            size="small"
            type="text"
            icon={<DeleteOutlined />}
            aria-label={say('booth.forget', { word: one.word })}
            onClick={() => void forget(one)}
          />
        </p>
      ))}
      {odd.map((one) => (
        <p key={`${one.word} ${one.saidAs}`} className={styles.pronunciation}>
          {say.rich('booth.isRead', { word: one.word, saidAs: one.saidAs, b: (word) => <b>{word}</b> })}
          <Button
            size="small"
            type="link"
            aria-label={say('booth.sayOtherwise', { word: one.word })}
            onClick={() => {
              setWord(one.word)
              setSaidAs(one.saidAs)
            }}
          >
            {say('booth.sayItOtherwise')}
          </Button>
        </p>
      ))}
      <div className={styles.pronunciation}>
        <Input
          size="small"
          placeholder={say('booth.skerrow')}
          aria-label={say('booth.word')}
          value={word}
          onChange={(event) => setWord(event.target.value)}
        />
        {say('booth.isSaidAs')}
        <Input
          size="small"
          placeholder={say('booth.skerroe')}
          aria-label={say('booth.saidAs')}
          value={saidAs}
          onChange={(event) => setSaidAs(event.target.value)}
          onPressEnter={add}
        />
        <Button size="small" onClick={add}>
          {say('booth.add')}
        </Button>
      </div>
    </>
  )
}

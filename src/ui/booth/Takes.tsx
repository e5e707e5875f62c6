'use client'

import { MoreOutlined } from '@/ui/parts/icons'
import { PlayButton } from '../parts/PlayButton'
import { App, Button, Dropdown, Upload, type MenuProps } from 'antd'
import { nanoid } from 'nanoid'
import { useState, useSyncExternalStore } from 'react'
import type { Step, Take } from '@/core/lesson/document'
import type { OutputName } from '@/core/delivery/outputs'
import { isInUse, takesOf } from '@/core/lesson/takes'
import { sidesNote } from '@/core/measure/sides'
import { reportTake, type TakeReport } from '@/core/narration/takeReport'
import { say } from '@/messages/say'
import { takeUrl } from '../api'
import { makeFile } from '../makeFile'
import { clock, signed } from '../format'
import { useDesk, useLesson, useLessonState } from '../lesson/context'
import { cleaningState } from '../lesson/useCleaning'
import { useHearAsInFile } from '../lesson/useHearAsInFile'
import { audition, auditioned, endAudition } from '../player/audition'
import { askWhetherToLay } from '../parts/askWhetherToLay'
import { ChooseParts } from './ChooseParts'
import { bringInReading, bringInTake, readScripts, replaceTake } from './takeActions'
import { VoiceSettings } from './VoiceSettings'
import { Wave } from './Wave'
import styles from './booth.module.css'

/** The takes of a step: listen, compare, choose, clean. */
export function Takes({ step }: { step: Step }) {
  const desk = useDesk()
  const { message, modal } = App.useApp()
  const lesson = useLesson()
  const takes = takesOf(lesson, step.id)
  const removed = lesson.takes.filter((take) => take.step === step.id && take.removed)
  const [parts, setParts] = useState(false)
  const [settings, setSettings] = useState(false)
  const [busy, setBusy] = useState<string | null>(null)
  const act = async (what: string, work: () => Promise<unknown>) => {
    setBusy(what)
    await work().catch((error: Error) => message.error(error.message))
    setBusy(null)
  }
  const [finding, setFinding] = useState(0)
  const following = lesson.steps.slice(lesson.steps.findIndex(({ id }) => id === step.id))
  const silent = lesson.steps.filter(({ script, passages }) => script.trim() !== '' && passages.length === 0)
  return (
    <section className={styles.takes} aria-label={say('booth.takesOfThisStep')}>
      <h2>
        {say('booth.takesOfThisStep')}
        <Button size="small" onClick={() => setSettings(true)}>
          {say('booth.voiceAndCleanUp')}
        </Button>
      </h2>
      <ul>
        {takes.map((take) => (
          <TakeRow
            key={take.id}
            take={take}
            step={step}
            onReplace={(file) => act('replace', () => replaceTake(desk, take, file))}
          />
        ))}
      </ul>
      {takes.length === 0 && <p className={styles.hint}>{say('booth.nothingRecordedForThis')}</p>}
      <div className={styles.actions}>
        {takes.length > 1 && step.script.trim() !== '' && (
          <Button size="small" onClick={() => setParts(true)}>
            {say('booth.chooseParts')}
          </Button>
        )}
        <Button
          size="small"
          loading={busy === 'read'}
          disabled={step.script.trim() === ''}
          onClick={() => void act('read', () => readScripts(desk, [step]))}
        >
          {say('booth.readByAVoice')}
        </Button>
        <Upload
          showUploadList={false}
          accept="audio/*,.wav,.mp3,.m4a,.ogg,.opus,.flac"
          beforeUpload={(file) => {
            void act('file', () => bringInTake(desk, step, file))
            return false
          }}
        >
          <Button size="small" loading={busy === 'file'}>
            {say('booth.bringInAFile')}
          </Button>
        </Upload>
        {following.length > 1 && (
          <Upload
            showUploadList={false}
            accept="audio/*,.wav,.mp3,.m4a,.ogg,.opus,.flac"
            beforeUpload={(file) => {
              void act('reading', () =>
                bringInReading(desk, following, file, setFinding, (doubt) => askWhetherToLay(modal, doubt)),
              )
              return false
            }}
          >
            <Button size="small" loading={busy === 'reading'} title={say('booth.oneRecordingOfThis')}>
              {busy === 'reading' && finding > 0
                ? say('booth.findingTheWords', { percent: Math.round(finding * 100) })
                : say('booth.bringInAReading')}
            </Button>
          </Upload>
        )}
        <Dropdown
          menu={{ items: wholeVoice((kind) => void act('voice', () => makeFile(desk.id, kind))) }}
          trigger={['click']}
        >
          <Button size="small" loading={busy === 'voice'}>
            {say('booth.saveTheWholeVoice')}
          </Button>
        </Dropdown>
        {silent.length > 1 && (
          <Button
            size="small"
            loading={busy === 'all'}
            onClick={() => void act('all', () => readScripts(desk, silent))}
          >
            {say('booth.readSilentSteps', { count: silent.length })}
          </Button>
        )}
      </div>
      {removed.length > 0 && (
        <p className={styles.hint}>
          {say('booth.removed')}{' '}
          {removed.map((take) => (
            <Button
              key={take.id}
              size="small"
              type="link"
              onClick={() => desk.store.getState().edit({ name: 'restoreTake', take: take.id })}
            >
              {say('booth.bringBack', { name: take.name })}
            </Button>
          ))}
        </p>
      )}
      <ChooseParts key={step.id} step={step} takes={takes} open={parts} onClose={() => setParts(false)} />
      <VoiceSettings step={step} takes={takes} open={settings} onClose={() => setSettings(false)} />
    </section>
  )
}

/** The voice of all steps in lesson time, as it stands in the mix. */
const wholeVoice = (onChoose: (kind: OutputName) => void): MenuProps['items'] =>
  (['wav', 'flac'] as const).map((format) => ({
    key: format,
    label: say('booth.asFormat', { format: format.toUpperCase() }),
    onClick: () => onChoose(`voice-${format}`),
  }))

function TakeRow({ take, step, onReplace }: { take: Take; step: Step; onReplace: (file: File) => void }) {
  const { store, player } = useDesk()
  const { modal } = App.useApp()
  const analysis = useLessonState(({ analyses }) => analyses.get(take.media))
  const cleaning = useLessonState((state) => cleaningState(state, take.media))
  const sides = useLessonState(({ media }) => media.get(take.media)?.sides)
  const hearAsInFile = useHearAsInFile()
  const listened = useLessonState((state) => auditioned(state.audition))
  const playing = useSyncExternalStore(player.subscribe, player.isPlaying, () => false)
  const isHeard = playing && listened?.media === take.media && listened.from === take.from
  const used = isInUse(step, take)
  const { edit } = store.getState()
  const rename = () => {
    let title = take.name
    void modal.confirm({
      title: say('booth.renameTheTake'),
      icon: null,
      content: (
        <input
          aria-label={say('booth.nameOfTheTake')}
          defaultValue={title}
          className={styles.nameInput}
          maxLength={200}
          onChange={(event) => (title = event.target.value)}
        />
      ),
      okText: say('booth.rename'),
      onOk: () => void (title.trim() && edit({ name: 'renameTake', take: take.id, title: title.trim() })),
    })
  }
  const useWhole = () => {
    const { media, from, to } = take
    edit({ name: 'chooseParts', step: step.id, passages: [{ id: nanoid(10), media, from, to, pause: 0 }] })
  }
  const items: MenuProps['items'] = [
    { key: 'rename', label: say('booth.renameMore'), onClick: rename },
    { key: 'wav', label: <a href={takeUrl(take.media, take, take.name, 'wav')}>{say('booth.saveAsWav')}</a> },
    { key: 'flac', label: <a href={takeUrl(take.media, take, take.name, 'flac')}>{say('booth.saveAsFlac')}</a> },
    {
      key: 'replace',
      label: (
        <Upload showUploadList={false} accept="audio/*" beforeUpload={(file) => (onReplace(file), false)}>
          {say('booth.replaceByAFile')}
        </Upload>
      ),
    },
    ...(sides
      ? [{ key: 'sides', label: say('files.hearBothSidesAs'), onClick: () => void hearAsInFile(take.media) }]
      : []),
    {
      key: 'remove',
      danger: true,
      label: say('booth.remove'),
      onClick: () => edit({ name: 'removeTake', take: take.id }),
    },
  ]
  return (
    <li data-take={take.name}>
      <PlayButton
        isSmall
        playing={isHeard}
        label={isHeard ? say('booth.stop', { name: take.name }) : say('booth.play', { name: take.name })}
        onPress={() => (isHeard ? endAudition(store, player) : audition(store, player, take))}
      />
      <div className={styles.takeBody}>
        {analysis ? (
          <Wave analysis={analysis} from={take.from} to={take.to} used={used} />
        ) : (
          <span className={styles.waveToCome}>{say('booth.loading')}</span>
        )}
        <p>
          <b>{take.name}</b> ·{' '}
          {used ? say('booth.inUse') : <button onClick={useWhole}>{say('booth.useThisOne')}</button>}
          {cleaning && ` · ${cleaning.media ? say('booth.cleaned') : (cleaning.error ?? say('booth.isCleaned'))}`}
        </p>
        {analysis ? (
          <Facts report={reportTake(take, analysis)} outdated={take.script.trim() !== step.script.trim()} />
        ) : (
          <small>&nbsp;</small>
        )}
        {sides && <p className={styles.hint}>{sidesNote(sides)}</p>}
      </div>
      <Dropdown menu={{ items }} trigger={['click']}>
        <Button
          size="small"
          type="text"
          icon={<MoreOutlined />}
          aria-label={say('booth.moreFor', { name: take.name })}
        />
      </Dropdown>
    </li>
  )
}

function Facts({ report, outdated }: { report: TakeReport; outdated: boolean }) {
  const { length, loudness, noise, wordsPerMinute, faults } = report
  const facts = [
    clock(length),
    loudness !== null && `${signed(loudness, 0)} LUFS`,
    noise !== null && say('booth.room', { noise: signed(noise, 0) }),
    wordsPerMinute !== null && say('booth.wordsPerMinute', { pace: Math.round(wordsPerMinute) }),
  ].filter(Boolean)
  const warnings = outdated ? [...faults, say('booth.saidBeforeTheScript')] : faults
  return (
    <small>
      {facts.join(' · ')}
      {warnings.length > 0 && <span className={styles.fault}> · {warnings.join(' · ')}</span>}
    </small>
  )
}

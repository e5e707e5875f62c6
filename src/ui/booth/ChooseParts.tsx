'use client'

import { CaretRightFilled } from '@/ui/parts/icons'
import { useQuery } from '@tanstack/react-query'
import { Alert, Button, Modal, Progress, Radio } from 'antd'
import { nanoid } from 'nanoid'
import { useMemo, useState } from 'react'
import type { Step, Take } from '@/core/lesson/document'
import { compPassages, isSaidIn, scriptPhrases, type AlignedTake, type ScriptPhrase } from '@/core/narration/lay/comp'
import { say } from '@/messages/say'
import { useDesk, useLesson } from '../lesson/context'
import { runJob } from '../jobs'
import { audition } from '../player/audition'
import styles from './booth.module.css'

/** Phrase by phrase: from which take it comes. */
export function ChooseParts({
  step,
  takes,
  open,
  onClose,
}: {
  step: Step
  takes: readonly Take[]
  open: boolean
  onClose: () => void
}) {
  const { store, player } = useDesk()
  const phrases = useMemo(() => scriptPhrases(step.script), [step.script])
  const { aligned, progress, error } = useAlignedTakes(step, takes, open)
  const [choice, setChoice] = useState<ReadonlyMap<number, number>>(new Map())
  const taken = (phrase: number) => choice.get(phrase) ?? (aligned ? inUseFor(step, phrases[phrase]!, aligned) : 0)
  const use = () => {
    const passages = compPassages(
      phrases,
      phrases.map((_, i) => taken(i)),
      aligned!,
      () => nanoid(10),
    )
    store.getState().edit({ name: 'chooseParts', step: step.id, passages })
    onClose()
  }
  const listen = (phrase: ScriptPhrase, take: number) => {
    const [part] = compPassages([phrase], [0], [aligned![take]!], () => 'part')
    if (part) audition(store, player, part)
  }
  return (
    <Modal
      open={open}
      onCancel={onClose}
      width={760}
      title={say('booth.fromWhichTakeEach')}
      okText={say('booth.useTheseParts')}
      okButtonProps={{ disabled: !aligned }}
      onOk={use}
    >
      {error && <Alert type="error" title={error} />}
      {!aligned && !error && (
        <p>
          {say('booth.findingTheWordsInTakes')} <Progress percent={Math.round(progress * 100)} size="small" />
        </p>
      )}
      {aligned && (
        <table className={styles.parts}>
          <thead>
            <tr>
              <th scope="col">{say('booth.words')}</th>
              {takes.map((take) => (
                <th key={take.id} scope="col">
                  {take.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {phrases.map((phrase, i) => (
              <tr key={phrase.from}>
                <td>{phrase.text}</td>
                {aligned.map((take, t) => (
                  <td key={t}>
                    {isSaidIn(take, phrase) ? (
                      <>
                        <Radio
                          aria-label={say('booth.partFrom', { text: phrase.text, name: takes[t]!.name })}
                          checked={taken(i) === t}
                          onChange={() => setChoice(new Map(choice).set(i, t))}
                        />
                        <Button
                          size="small"
                          type="text"
                          icon={<CaretRightFilled />}
                          aria-label={say('booth.playOf', { text: phrase.text, name: takes[t]!.name })}
                          onClick={() => listen(phrase, t)}
                        />
                      </>
                    ) : (
                      <small>{say('booth.notSaid')}</small>
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Modal>
  )
}

/** The take a phrase comes from now; the newest that has it, where it is not heard. */
function inUseFor(step: Step, phrase: ScriptPhrase, takes: readonly AlignedTake[]): number {
  const used = takes.findIndex(({ media, words }) =>
    words.some(
      (word) =>
        word.from >= phrase.from &&
        word.to <= phrase.to &&
        step.passages.some((one) => one.media === media && one.from <= word.start && one.to >= word.end),
    ),
  )
  return used >= 0
    ? used
    : Math.max(
        0,
        takes.findLastIndex((take) => isSaidIn(take, phrase)),
      )
}

function useAlignedTakes(step: Step, takes: readonly Take[], open: boolean) {
  const { language } = useLesson()
  const [progress, setProgress] = useState(0)
  const parts = takes.map(({ media, from, to }) => ({ media, from, to }))
  const { data, error } = useQuery({
    queryKey: ['aligned', step.script, language, parts],
    queryFn: () => {
      const shares = parts.map(() => 0)
      return Promise.all(
        parts.map(async (part, i): Promise<AlignedTake> => {
          const { words } = await runJob({ kind: 'align', ...part, script: step.script, language }, (share) => {
            shares[i] = share
            setProgress(shares.reduce((sum, one) => sum + one, 0) / parts.length)
          })
          return { ...part, words }
        }),
      )
    },
    enabled: open,
    retry: false,
    staleTime: Infinity,
  })
  return { aligned: data ?? null, progress, error: error?.message ?? null }
}

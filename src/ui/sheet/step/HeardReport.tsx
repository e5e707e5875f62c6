'use client'

import { Button } from 'antd'
import { nanoid } from 'nanoid'
import { useMemo } from 'react'
import type { Step } from '@/core/lesson/document'
import { isOutdated } from '@/core/lesson/takes'
import { takesHeard } from '@/core/narration/words/heardWords'
import { readScript } from '@/core/narration/words/script'
import { triesHeard } from '@/core/narration/lay/tries'
import { alignmentOf } from '@/core/narration/words/alignments'
import { say } from '@/messages/say'
import { useDesk, useLesson, useLessonState } from '../../lesson/context'
import styles from '../panel.module.css'

/** What was found when a step's takes were compared with its script: earlier tries, sentences left out, a changed script. */
export function HeardReport({ step }: { step: Step }) {
  const { store } = useDesk()
  const lesson = useLesson()
  const alignments = useLessonState((state) => state.alignments)
  const { tries, skipped } = useMemo(() => {
    const takes = takesHeard(lesson)
    const foundOf = (take: (typeof takes)[number]) => alignmentOf(lesson, take, alignments) ?? []
    const own = takes.filter((take) => take.step === step.id)
    return {
      tries: triesHeard(
        step,
        (media) => takes.filter((take) => take.media === media).flatMap(foundOf),
        () => nanoid(10),
      ),
      skipped: own.flatMap((take) => {
        const { sentences } = readScript(take.script)
        return [foundOf(take)].flat().flatMap((found) => found.skipped.map((index) => sentences[index]?.text ?? ''))
      }),
    }
  }, [lesson, alignments, step])
  const { edit } = store.getState()
  const missing = skipped.filter((text) => text && step.script.includes(text.split(' ')[0]!))
  const changed = isOutdated(lesson, step)
  if (tries.length === 0 && missing.length === 0 && !changed) return null
  return (
    <div className={styles.report}>
      {tries.length > 0 && (
        <p>
          {say('step.triesHeard', { count: tries.length })}{' '}
          <Button
            size="small"
            onClick={() => edit({ name: 'cutWords', step: step.id, cuts: tries, script: step.script })}
          >
            {say('step.leaveOut', { count: tries.length })}
          </Button>
        </p>
      )}
      {missing.map((text) => (
        <p key={text}>{say.rich('step.notSaid', { text, i: (words) => <i>{words}</i> })}</p>
      ))}
      {changed && (
        <p>
          {say('step.scriptChanged')}{' '}
          <Button size="small" onClick={() => edit({ name: 'acceptScript', step: step.id })}>
            {say('step.itSaysThis')}
          </Button>
        </p>
      )}
    </div>
  )
}
